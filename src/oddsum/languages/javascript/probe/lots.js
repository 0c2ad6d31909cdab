/* Random numbers that are the same in each run: `Math.random` from the plan's seed.

   The generator is sfc32, of Chris Doty-Humphrey's PractRand, begun as he does: twelve rounds ahead.
*/
"use strict";

exported.install = (seed) => exported.installIn(outside, seed);

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
