/* The requests of a process for trials: lines of json on a pipe, read one after the other. */
"use strict";

const { readSync } = native("fs");
const { Buffer } = native("buffer");

/** A function that gives the next request each time; null at the end. The first was read before. */
exported.reader = function reader(descriptor) {
  const piece = Buffer.alloc(1 << 16);
  let rest = Buffer.alloc(0);
  return function next() {
    for (;;) {
      const end = rest.indexOf(10);
      if (end >= 0) {
        const line = rest.subarray(0, end).toString("utf8");
        rest = rest.subarray(end + 1);
        return JSON.parse(line);
      }
      let count = 0;
      try {
        count = readSync(descriptor, piece, 0, piece.length, null);
      } catch (error) {
        if (error.code !== "EAGAIN") throw error;
        continue;
      }
      if (count === 0) return null;
      rest = Buffer.concat([rest, piece.subarray(0, count)]);
    }
  };
};
