class Timetable {
  constructor(...times) {
    this.times = times;
  }
  *[Symbol.iterator]() {
    for (const time of this.times) {
      const shown = time + 1;
      yield shown;
    }
  }
}
function* both(a, b) {
  yield* a;
  const between = yield "then";
  yield* b;
  return between;
}
const table = new Timetable(6, 9);
const all = [...table];
const steps = both(table, [1, 2]);
let got = steps.next();
const taken = [];
while (!got.done) {
  taken.push(got.value);
  got = steps.next(taken.length);
}
function* endless() {
  let at = 0;
  while (true) {
    const reset = yield at++;
    if (reset) {
      at = 0;
    }
  }
}
const counter = endless();
counter.next();
const next = counter.next().value;
const again = counter.next(true).value;
counter.return(5);
function two() {
  const [p, q] = endless();
  const sum = p + q;
  return sum;
}
const sum = two();
console.log(all, taken, got.value, next, again, sum);
