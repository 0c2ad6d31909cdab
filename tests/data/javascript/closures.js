// closures, arrows, defaults, rest, spread, destructuring
const counter = (start = 0) => { let n = start; return { up: (by = 1) => (n += by), get value() { return n; } }; };
const c = counter(5);
c.up(); c.up(3);
console.log(c.value);
function sum(first, ...rest) { return rest.reduce((a, b) => a + b, first); }
console.log(sum(1, 2, 3), sum(...[4, 5]));
const { a, b: { c: deep = 7 } = {}, ...others } = { a: 1, x: 2, y: 3 };
console.log(a, deep, others);
let [p, , q = 9] = [1, 2];
[p, q] = [q, p];
console.log(p, q);
const fs = []; for (var i = 0; i < 3; i++) fs.push(() => i);
console.log(fs.map(f => f()));
const gs = []; for (let i = 0; i < 3; i++) gs.push(() => i);
console.log(gs.map(f => f()));
label: for (let i = 0; i < 3; i++) { for (let j = 0; j < 3; j++) { if (j === 1) continue label; if (i === 2) break label; console.log(i, j); } }
let k = 0; do { k++; if (k === 2) continue; } while (k < 4); console.log(k);
for (const key in { a: 1, b: 2 }) console.log(key);
for (const [i, v] of ['x', 'y'].entries()) console.log(i, v);
if (a) console.log("yes"); else console.log("no");
if (!a) console.log("no"); else if (p) console.log("p"); else { console.log("none"); }
var x = y = 5; console.log(x, y);
switch (a) { case 1: console.log("one"); case 2: console.log("two"); break; default: console.log("none") }
try { null.foo } catch (e) { console.log(e.message) } finally { console.log("fin") }
try { throw { code: 4 } } catch ({ code }) { console.log(code) }
function f() { try { return 1 } finally { console.log("f") } }
console.log(f());
console.log(typeof undefinedThing, void 0, delete c.foo);
const o = { m() { return this.v }, v: 3, ['k' + 1]: 4, get g() { return 1 } };
console.log(o.m(), o.k1, o?.nothing?.deep, o.nothing ?? 'dflt');
let z = null; z ??= 4; z ||= 5; z &&= 6; console.log(z);
console.log([3, 1, 10].sort(), [3, 1, 10].sort((a, b) => a - b));
console.log(`t${a}${`n${p}`}`);
console.log([..."héé"].length, "ü".length)
while (k > 0) k--;
console.log(k)
;[1, 2].forEach(n => console.log(n))
const re = /a(b)/g; console.log("xab".replace(re, (m, g) => g));
console.log(((a, b) => a ** b)(2, 3), 0.1 + 0.2, -0, [1, , 3], NaN);
