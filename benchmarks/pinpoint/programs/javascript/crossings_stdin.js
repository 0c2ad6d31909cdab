const lines = require("fs").readFileSync(0, "utf8").trim().split("\n");
const limit = Number(lines[0]);
let aboard = 0;
let left = 0;
let fullest = 0;
const stops = [];
for (const line of lines.slice(1)) {
  const [stop, off, on] = line.split(" ");
  aboard -= Number(off);
  const room = limit - aboard;
  const boarding = Math.min(Number(on), room);
  left += Number(on) - boarding;
  aboard += boarding;
  if (aboard > fullest) {
    fullest = aboard;
  }
  stops.push(`${stop}: ${aboard}`);
}
console.log(stops.join("\n"));
console.log(`left behind ${left}, fullest ${fullest}`);
console.log(aboard === 0 ? "empty at the end" : `${aboard} still aboard`);
