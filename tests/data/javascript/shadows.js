// hoisting, shadowing, var, getters, recursion
console.log(hoisted(2), typeof later);
function hoisted(n) { if (n === 0) return "z"; return hoisted(n - 1) + n }
var later = 3;
let x = 1; { let x = 2; x++; console.log(x) } console.log(x);
function shadow(x) { { let x = 5; x += 1 } return x } console.log(shadow(1));
for (let i = 0, n = 3; i < n; i += 2) console.log(i, n);
for (;;) { if (x++ > 3) break }
console.log(x);
const xs = [5, 3, 8]; let best = xs[0]; for (const v of xs) if (v > best) best = v; console.log(best);
let i = 0; while (i < xs.length) { xs[i] *= 2; i++ } console.log(xs);
xs.length = 1; console.log(xs); xs[3] = 1; console.log(xs, xs.length);
const copy = xs; copy.push(7); console.log(xs === copy, xs);
const obj = { n: { m: [1] } }; const inner = obj.n; inner.m.push(2); obj.n.m[0]--; console.log(obj); delete obj.n; console.log(obj);
var fns = { add: function (a, b) { return a + b }, sub: (a, b) => a - b }; console.log(fns.add(1, 2), fns.sub(1, 2), fns['add'](2, 2));
console.log((function () { return typeof this })(), (() => arguments.length)());
console.log([1, 2, 3].indexOf(2), [1, [2, [3]]].flat(Infinity), "a-b".split("-"));
const a = 1, b = 2; console.log(a, b); var t; t = a; console.log(t)
if (a) { function inBlock() { return "ib" } console.log(inBlock()) }
console.log(((a, b = a) => [a, b])(1), ({ a, b }));
let cond = a > 0 ? b > 1 ? "both" : "a" : "none"; console.log(cond);
var s = ""; for (const ch of "abc") s = ch + s; console.log(s);
console.log(isNaN("x"), [NaN].includes(NaN), 1 / 0, 7 % 3, -7 % 3, 5 / 2 | 0);
process.exitCode = 3;
