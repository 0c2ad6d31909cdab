const table = { pier: "north", times: [600, 715, 930], crew: { head: "Una", others: ["Bo", "Tor"] } };
const { pier, times: [first, ...later], crew: { head, others: [second = "nobody", , third = "none"] } } = table;
function fare({ age, bulky = false, ...rest } = {}, [weight = 1, unit = "kg"] = []) {
  let cost = age < 16 ? 3 : 6;
  const extras = Object.keys(rest).length;
  cost += bulky ? 5 : 0;
  return [cost, extras, weight, unit];
}
const one = fare({ age: 9, dog: 1, bike: 1 }, [12]);
const two = fare({ age: 40, bulky: true });
const three = fare();
let left = 1;
let right = 2;
[left, right] = [right, left + 10];
const copy = { ...table, pier: "south", more: [...later, 1] };
({ pier: table.pier } = copy);
const found = [[1, "a"], [2, "b"]].map(([number, letter]) => {
  const text = letter + number;
  return text;
});
const deep = table?.crew?.captain?.name ?? "no captain";
console.log(pier, first, later, head, second, third, one, two, three, left, right, found, deep, table.pier);
