const seen = new Map();
const names = new Set();
const order = [];
function note(name, kilos) {
  const before = seen.get(name) ?? [];
  before.push(kilos);
  seen.set(name, before);
  names.add(name);
  order.unshift(name);
  return before.length;
}
for (const [name, kilos] of Object.entries({ hay: 3, peat: 4, salt: 1 })) {
  const count = note(name, kilos);
  if (count > 1) {
    names.delete(name);
  }
}
note("hay", 9);
names.delete("salt");
const grid = Array.from({ length: 2 }, () => Array(3).fill(0));
grid[1][2] = 7;
grid[0] = grid[1].slice(1);
const sums = grid.map((row) => row.reduce((sum, n) => sum + n, 0));
order.sort((a, b) => {
  const difference = a.length - b.length;
  return difference || a.localeCompare(b);
});
order.splice(1, 2, "rope");
const text = [...seen].map(([k, v]) => `${k}:${v}`).join(" ");
order.length = 1;
delete grid[1][0];
const keyed = [{ key: [1] }, { key: 2 }];
keyed[0].key.push(3);
keyed[1].key = 5;
const by = new Map([[{ key: 1 }, "a"]]);
keyed.pop();
console.log(by.size, keyed);
console.log(text, [...names], order, sums, grid, seen.size);
