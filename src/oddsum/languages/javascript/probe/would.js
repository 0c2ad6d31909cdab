/* Values that could have been right in an expression's place.

   They are solved for from how the result differs from what is expected: off by so much, by such a
   factor, the expected number, text or item itself; and taken from what other expressions of the run
   gave. Which of them is right is found by trial: an oracle's choice put in the expression's place, as
   in S. Chandra, E. Torlak, S. Barman, R. Bodik, "Angelic debugging", ICSE 2011.
*/
"use strict";

const values = ours("values");

const MOST = 24; // values that are tried in one place
const SIZE = 400; // items of a list, letters of a text: of longer ones nothing is made
const NUMBER = /-?\d+(?:\.\d+)?/g;
const HINTED = 3; // amounts, and factors, that are tried
const HELD = 20; // items of a list, that are looked at
const MOST_TEXTS = 4; // that differ, and are looked through

/** Whether two values are the same, and of one type. */
function alike(one, other) {
  return typeof one === typeof other && values.same(one, other, 1e-12);
}

function add(some, value) {
  if (!some.some((known) => alike(known, value))) some.push(value);
}

function numbersIn(text) {
  return (text.slice(0, 4000).match(NUMBER) ?? []).slice(0, 60).map(Number);
}

/** A value and those inside of it, the outermost first. */
function* inside(value, depth = 3) {
  yield value;
  if (!depth || value === null || typeof value !== "object") return;
  if (Array.isArray(value)) {
    for (const one of value.slice(0, HELD)) yield* inside(one, depth - 1);
    return;
  }
  for (const [key, one] of values.fieldsOf(value).slice(0, HELD)) {
    yield key;
    yield* inside(one, depth - 1);
  }
}

/** What the difference between two results says: amounts, factors, and whole values. */
class Hints {
  amounts = [];
  factors = [];
  items = [];
  texts = []; // that differ, in one place: what is wanted, what was given

  /** `read` gives the value of a text, where both are texts of values; else they are printed. */
  constructor(expected, actual, read = null) {
    this.#pair(numbersIn(expected), numbersIn(actual));
    if (read !== null) this.#inside(read(expected), read(actual));
    else this.#lines(expected.split("\n"), actual);
  }

  #pair(wanted, given) {
    for (const number of wanted) if (!given.includes(number)) add(this.items, number);
    const both = Math.min(wanted.length, given.length);
    const [ends, found] = [wanted.slice(wanted.length - both), given.slice(given.length - both)];
    ends.forEach((number, n) => {
      if (number === found[n]) return;
      add(this.amounts, number - found[n]);
      if (found[n]) add(this.factors, number / found[n]);
    });
    this.amounts.length = Math.min(HINTED, this.amounts.length);
    this.factors.length = Math.min(HINTED, this.factors.length);
  }

  #inside(expected, actual) {
    if (expected === undefined) return;
    this.texts = [...apart(expected, actual)];
    const [wanted, given] = [[...inside(expected)], [...inside(actual)]];
    const isGiven = (value) => given.some((one) => alike(one, value));
    this.items.push(...wanted.filter((v) => !isGiven(v)), ...wanted.filter(isGiven));
  }

  #lines(lines, actual) {
    this.texts = [...apart(lines, actual.split("\n"))];
    const missing = lines.filter((line) => !actual.includes(line));
    this.items.push(...missing.map((line) => line.trim()));
    this.items.push(...lines.flatMap((line) => line.split(/\s+/)).filter((w) => w && !actual.includes(w)));
    this.items.push(...missing.map((line) => line.slice(line.lastIndexOf(":") + 1).trim()));
  }
}

/** Texts that differ in the same place of two values. */
function* apart(wanted, given, depth = 3) {
  if (typeof wanted === "string" && typeof given === "string") {
    if (wanted !== given && wanted.length <= SIZE && given.length <= SIZE) yield [wanted, given];
  } else if (depth && Array.isArray(wanted) && Array.isArray(given)) {
    const both = Math.min(wanted.length, given.length, HELD);
    for (let n = 0; n < both; n++) yield* apart(wanted[n], given[n], depth - 1);
  }
}

/** What a text would have to be where it is a part of what was given. */
function* inItsPlace(value, wanted, given) {
  for (let at = value ? given.indexOf(value) : -1; at >= 0; at = given.indexOf(value, at + 1)) {
    const [head, tail] = [given.slice(0, at), given.slice(at + value.length)];
    const room = wanted.length - head.length - tail.length;
    if (room >= 0 && wanted.startsWith(head) && wanted.endsWith(tail)) yield wanted.slice(at, at + room);
  }
}

/** Other values to try in the place of one, the likelier first; each once, not too many. */
function candidates(value, hints, pool) {
  if (typeof value === "boolean") return [!value];
  const made = [];
  for (const other of proposed(value, hints, pool)) {
    if (!alike(other, value)) add(made, other);
    if (made.length === MOST) break;
  }
  return made;
}

function* proposed(value, hints, pool) {
  const ofType = (type) => hints.items.filter((item) => typeof item === type);
  if (typeof value === "number") {
    yield* numbersFor(value, hints);
  } else if (typeof value === "string" && value.length <= SIZE) {
    for (const [wanted, given] of hints.texts.slice(0, MOST_TEXTS)) yield* inItsPlace(value, wanted, given);
    yield* ofType("string");
    yield* [value.trim(), value.toLowerCase(), value.toUpperCase(), [...value].reverse().join("")];
    yield* ofType("number").map(String);
  } else if (Array.isArray(value) && value.length <= SIZE) {
    yield* listsFor(value, hints);
  } else {
    const nothing = value === null || value === undefined;
    yield* hints.items.filter((item) => nothing || typeof item === typeof value);
  }
  yield* pool;
}

function* numbersFor(value, hints) {
  for (const amount of hints.amounts) yield* [tidy(value + amount), tidy(value - amount)];
  for (const factor of hints.factors) {
    yield tidy(value * factor);
    if (factor) yield tidy(value / factor);
  }
  yield* hints.items.filter((item) => typeof item === "number");
  yield* [value + 1, value - 1, value ? -value : 0, 0];
}

/** A number without the last digits' noise. */
function tidy(number) {
  return Math.abs(number) <= 1e15 ? Number(number.toPrecision(12)) : 0;
}

function* listsFor(value, hints) {
  yield* hints.items.filter((item) => Array.isArray(item));
  yield* [value.slice(1), value.slice(0, -1), [...value].reverse()];
  const simple = typeof value[0];
  if ((simple === "number" || simple === "string") && value.every((v) => typeof v === simple)) {
    const ordered = [...value].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
    yield* [ordered, [...ordered].reverse(), [...new Set(value)]];
  }
  for (const item of hints.items.slice(0, 4)) {
    if (item === null || typeof item === "object") continue;
    yield [...value, item];
    yield value.filter((one) => !alike(one, item));
  }
  yield [];
}

Object.assign(exported, { Hints, alike, candidates });
