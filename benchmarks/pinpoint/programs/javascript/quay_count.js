// How many crates of each kind stand on the quay, read from lines "kind amount".
const fs = require("fs");
const lines = fs.readFileSync(0, "utf8").trim().split("\n");
const counts = new Map();
let total = 0;

for (const line of lines) {
  const [kind, amount] = line.split(" ");
  const number = parseInt(amount, 10);
  if (Number.isNaN(number)) {
    console.log(`not counted: ${line}`);
    continue;
  }
  counts.set(kind, (counts.get(kind) || 0) + number);
  total += number;
}

const kinds = [...counts.keys()].sort();
for (const kind of kinds) {
  console.log(`${kind}: ${counts.get(kind)}`);
}
console.log(`total: ${total}`);
