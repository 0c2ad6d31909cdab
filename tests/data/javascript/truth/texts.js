const line = "Ida;12;7,50";
const [name, people, money] = line.split(";");
const cost = Number(money.replace(",", "."));
const joined = people + 4;
const added = +people + 4;
let masked = line.replace(/\d+/g, (digits) => {
  const stars = "*".repeat(digits.length);
  return stars;
});
function tag(parts, ...values) {
  const out = parts.map((part, n) => part + (values[n] ?? ""));
  return out.join("");
}
const told = tag`on ${name} for ${cost}`;
const big = 2n ** 64n;
const odd = [0.1 + 0.2, -0, NaN, 1 / 0, 1e21, 5e-7, null, undefined, "it's"];
const when = new Date(0).toISOString().slice(0, 10);
const found = line.match(/(?<first>\w+);/)?.groups.first;
masked += found;
let kind;
switch (typeof joined) {
  case "number":
    kind = 1;
    break;
  case "string":
    kind = 2;
  default:
    kind = (kind ?? 0) + 10;
}
console.log(name, cost, joined, added, masked, told, big, odd, when, kind);
