// The kiosk's day: lines "item;amount;price", and what was taken.
const input = require("fs").readFileSync(0, "utf8");
const rows = input.split("\n").filter((line) => line.trim() !== "");

function parse(row) {
  const [item, amount, price] = row.split(";");
  return { item, amount: Number(amount), price: Number(price) };
}

let takings = 0;
let best = null;
for (const row of rows) {
  const sale = parse(row);
  const value = sale.amount * sale.price;
  takings += value;
  if (best === null || value > best.value) {
    best = { item: sale.item, value };
  }
}

console.log(`sales: ${rows.length}`);
console.log(`takings: ${takings.toFixed(2)}`);
if (best !== null) {
  console.log(`best: ${best.item}`);
}
