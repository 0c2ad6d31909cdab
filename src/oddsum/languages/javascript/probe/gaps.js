/* Lines that nothing prints: where one that is missing from what was printed could have come from.

   Between two statements, and at the end of a block, stands a *gap*, hooked like an expression
   (`sites.py`). A value that would be right there is a text that is printed. */
"use strict";

const MOST_LINES = 3; // that are missing at one place

/** Lines that are printed in a gap; `text` has the end of its last line. */
class Printed {
  constructor(text) {
    this.text = text;
  }

  /** Print them, as the program would; `home` is its world. */
  put(home) {
    home.console.log(this.text.slice(0, -1));
  }
}

/** The lines that are missing from what was printed, all at one place; null where there are none, too
    many, or others came out that are not wanted. A line that came out may begin with what asked for
    input: see Python's `missing_text`. */
function missingText(expected, actual) {
  const wanted = expected.trimEnd().split("\n");
  const came = actual.split("\n").slice(0, -1); // behind the last line's end there is a question, or nothing
  const first = asWanted(wanted, came);
  const last = asWanted(wanted.slice(first).reverse(), came.slice(first).reverse());
  const missing = wanted.slice(first, wanted.length - last);
  if (first + last < came.length || missing.length > MOST_LINES) return null;
  if (missing.every((line) => !line.trim())) return null;
  return missing.map((line) => `${line}\n`).join("");
}

/** How many lines came out as wanted, from the first on. */
function asWanted(wanted, came) {
  const both = Math.min(wanted.length, came.length);
  for (let n = 0; n < both; n += 1) {
    const [due, line] = [wanted[n].trimEnd(), came[n].trimEnd()];
    if (due ? !line.endsWith(due) : line) return n;
  }
  return both;
}

/** At which visits of a gap they are printed: each of the first, the last, and all. */
function* tried(text, visits, each) {
  if (text === null || !visits) return;
  const some = new Set([...Array(Math.min(visits, each)).keys()].map((n) => n + 1));
  for (const visit of [...some.add(visits)].sort((a, b) => a - b)) yield [visit, new Printed(text)];
  if (visits > 1) yield [0, new Printed(text)];
}

Object.assign(exported, { Printed, missingText, tried });
