function later(x) {
  return new Promise((resolve, reject) => setTimeout(() => (x > 1 ? reject(new Error("far " + x)) : resolve(x)), 1));
}
async function one(x) {
  let seen = "";
  try {
    const v = await later(x);
    seen += v;
  } catch (error) {
    seen += error.message;
  } finally {
    seen += "!";
  }
  return seen;
}
function* g(n) {
  try {
    for (let i = 0; i < n; i++) {
      yield i;
    }
  } finally {
    const end = n * 2;
    console.log("end", end);
  }
}
function first(n) {
  let found = null;
  for (const k of g(n)) {
    found = k;
    break;
  }
  found = found + 10;
  return found;
}
async function fails() {
  const v = await later(7);
  return v;
}
async function main() {
  const a = await one(1);
  const b = await one(2);
  console.log(a, b);
  console.log(first(5));
  try {
    await fails();
  } catch (e) {
    const m = e.message;
    console.log(m);
  }
  const both = await Promise.all([one(1), one(3)]);
  console.log(both);
}
main();
