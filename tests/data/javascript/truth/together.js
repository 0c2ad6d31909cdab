const wait = (ms, value) => new Promise((done) => setTimeout(() => done(value), ms));
async function* arrivals() {
  for (let n = 1; n <= 3; n++) {
    const boat = await wait(1, `boat ${n}`);
    yield boat;
  }
}
async function unload(name, crates) {
  let left = crates;
  while (left > 0) {
    left = await wait(1, left - 2);
  }
  const told = `${name}: ${left}`;
  return told;
}
async function day() {
  const seen = [];
  for await (const boat of arrivals()) {
    seen.push(boat);
    if (seen.length === 2) {
      break;
    }
  }
  const done = await Promise.all([unload("Ida", 3), unload("Eve", 4)]);
  const one = await Promise.allSettled([wait(1, 7), Promise.reject(new Error("fog"))]);
  seen.push(...done);
  return [seen, one.map((o) => o.status)];
}
day().then((told) => {
  const text = JSON.stringify(told);
  console.log(text);
});
Promise.resolve(3)
  .then((n) => {
    const more = n + 1;
    return more;
  })
  .then((n) => console.log("then", n));
console.log("first");
