class Boat { #secret = 1; static count = 0; name; constructor(name) { this.name = name; Boat.count++; }
  get secret() { return this.#secret } set secret(v) { this.#secret = v }
  sail(n) { for (let i = 0; i < n; i++) { this.#secret += i } return this }
  static make(n) { return new this(n) } }
class Ferry extends Boat { constructor(name, seats) { super(name); this.seats = seats; this.people = [] }
  board(who) { if (this.people.length >= this.seats) throw new RangeError("full: " + who); this.people.push(who); return this.people.length }
  sail(n) { return super.sail(n + 1) } }
const f = new Ferry("Ard", 2);
console.log(f.board("Ada"), f.board("Bo"));
try { f.board("Cy") } catch (e) { console.log(e instanceof RangeError, e.message) }
f.sail(3); f.secret = f.secret * 2; console.log(f.secret, Boat.count, Ferry.make("x").name, f);
function* gen(n) { let got; for (let i = 0; i < n; i++) { got = yield i * 2; if (got) console.log("got", got) } return "end" }
const g = gen(3); console.log(g.next(), g.next("a"), g.next(), g.next(), g.next());
for (const v of gen(2)) console.log(v);
function* outer() { yield* gen(2); yield "o" } console.log([...outer()]);
const m = new Map([["a", 1]]); m.set("b", 2); for (const [k, v] of m) console.log(k, v);
const s = new Set([1, 2, 2]); s.add(3); console.log(s.size, [...s]);
m.forEach((v, k) => { if (v > 1) m.delete(k) }); console.log(m);
const grid = Array.from({ length: 2 }, () => Array(3).fill(0)); grid[1][2] = 5; console.log(grid);
const same = Array(2).fill([]); same[0].push(1); console.log(same);
function Old(n) { this.n = n } Old.prototype.twice = function () { return this.n * 2 }; console.log(new Old(4).twice());
const frozen = Object.freeze({ a: 1 }); frozen.a = 2; console.log(frozen.a);
(function () { "use strict"; try { frozen.a = 3 } catch (e) { console.log(e.constructor.name) } })();
const stops = n => n < 2 ? 1 : n + stops(n - 1);
const deep = (n) => n === 0 ? 0 : 1 + deep(n - 1); console.log(deep(2000));
const bound = f.board.bind({ people: [], seats: 1 }); console.log(bound("z"));
console.log([1, 2, 3, 4].filter(n => n % 2).map(n => n * n).reduce((a, b) => a + b, 0));
console.log(JSON.stringify({ d: { e: [1, { f: null }] } }), Object.entries({ a: 1 }));
console.log(typeof f.sail, f.hasOwnProperty("name"), "name" in f);
const tag = (t, ...v) => t.raw.join("|") + v; console.log(tag`a${1}b`);
new class { constructor() { console.log("anon") } }();
let u; console.log(u?.x, u); var v1 = 1, v2 = v1 + 1; console.log(v1, v2);
console.log((() => { for (const x of [1, 2, 3]) { if (x === 2) return x } })());
const it = { *[Symbol.iterator]() { yield 1; yield 2 } }; console.log([...it]); for (const x of it) { console.log(x); break }
outer2: while (true) { switch (1) { case 1: break outer2 } }
console.log(parseInt("12px"), Number(""), "5" * "2", "5" + 2, [] + {}, [10, 9, 1].sort());
