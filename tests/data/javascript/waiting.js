const wait = (ms, v) => new Promise(r => setTimeout(() => r(v), ms));
async function one(n) { console.log("start", n); const v = await wait(n, n * 2); console.log("got", v); return v }
async function main() {
  const a = await one(3); const [b, c] = await Promise.all([one(40), one(2)]); console.log(a, b, c);
  try { await fails() } catch (e) { console.log("caught", e.message) }
  for await (const x of agen()) console.log(x);
  for (const t of [1, 2]) { await null; console.log("t", t) }
  return "done";
}
async function fails() { await null; throw new Error("no") }
async function* agen() { yield 1; await wait(1); yield 2 }
main().then(v => console.log(v)).finally(() => console.log("fin"));
console.log("sync end");
process.on("exit", (c) => console.log("exit", c));
Promise.resolve(1).then(x => { console.log("then", x) });
queueMicrotask(() => console.log("micro"));
process.nextTick(() => console.log("tick"));
