/* What is the same in each run: random numbers, from the plan's seed, and the date, where the plan has one.

   The generator is sfc32, of Chris Doty-Humphrey's PractRand, begun as he does: twelve rounds ahead.
*/
"use strict";

exported.install = ({ seed, today }) => {
  exported.installIn(outside, seed);
  exported.fixDateIn(outside, today, outside.Date);
};

/** `Date` tells this date and no other where it is asked for now; ``today`` is local time. */
exported.fixDateIn = function fixDateIn(world, today, kind) {
  if (today === null || today === undefined) return;
  const [year, month, day, ...time] = today.match(/\d+/g).map(Number);
  const fixed = new kind(year, month - 1, day, ...time.slice(0, 3)).getTime();
  const now = () => fixed;
  world.Date = new Proxy(kind, {
    construct: (target, given, made) => Reflect.construct(target, given.length ? given : [fixed], made),
    apply: () => new kind(fixed).toString(),
    get: (target, key) => (key === "now" ? now : Reflect.get(target, key)),
  });
};

exported.installIn = function installIn(world, seed) {
  if (seed === null || seed === undefined) return;
  let a = 0;
  let b = seed | 0;
  let c = (seed / 2 ** 32) | 0;
  let count = 1;
  function next() {
    const sum = (((a + b) | 0) + count) | 0;
    count = (count + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (c << 21) | (c >>> 11);
    c = (c + sum) | 0;
    return sum >>> 0;
  }
  for (let round = 0; round < 12; round += 1) next();
  const random = () => (next() * 2 ** 21 + (next() >>> 11)) / 2 ** 53;
  Object.defineProperty(random, "name", { value: "random" });
  world.Math.random = random;
};
