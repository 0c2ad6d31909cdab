/* Which values would have been right: a case is run with one expression's value changed. */
"use strict";

const values = ours("values");
const { Copier, OPAQUE, kept } = ours("copies");
const { Printed, tried } = ours("gaps");
const { alike, candidates } = ours("would");

const VISITS = 12; // of an expression in a run, that are looked at
const EACH = 4; // of them, at which a number, text or list is changed by itself
const TOLD = 3; // values that are told of an expression that is exchanged at every visit
const MOMENTS = 8; // of one run, at which what could stand there is tried
const POOL = 12; // values of one type, that other expressions gave
const WHEREVER = 5; // values of an expression that another is tried for
const THEN = " then ";

exported.handOn = (_number, value) => value;

/** One value put in the place of another: of an expression, at a visit; 0: at all of them. Of all,
    only where it gives `gave`, where that is said; `factor` times as much, where that is. */
class Row {
  constructor(place, visit, would, { factor = null, gave = OPAQUE } = {}) {
    Object.assign(this, { place, visit, would, factor, gave });
  }

  /** Whether another value is put there at a visit. */
  concerns(visit, value) {
    if (this.gave !== OPAQUE) return alike(value, this.gave);
    return this.visit === 0 || this.visit === visit;
  }

  /** What the expression gives at a visit where it would give `value`; `home`: of which world. */
  instead(visit, value, home) {
    if (!this.concerns(visit, value)) return value;
    if (this.would instanceof Printed) {
      this.would.put(home);
      return value;
    }
    if (this.factor !== null) return typeof value === "number" ? value * this.factor : value;
    return new Copier(home).of(this.would);
  }
}

/** The program with its expressions hooked. `run` runs a case with a hook; `home` is the world. */
class Solving {
  rows = [];
  #run;
  #places;
  #seen = [];
  #counts = [];

  constructor(places, run) {
    this.#places = places;
    this.#run = run;
  }

  // -- which values ---------------------------------------------------------------------------

  /** Run the case as it is, and hear what each expression gives; returns what the run did. */
  listen() {
    this.#seen = this.#places.map(() => []);
    this.#counts = this.#places.map(() => 0);
    return this.#run((home) => (number, value) => {
      this.#counts[number] += 1;
      if (this.#counts[number] <= VISITS) this.#seen[number].push(kept(value, home));
      return value;
    });
  }

  /** Try values on the case that was listened to, at the places that are `here`; gives
      `[row, what the run did]` for each. */
  *values(hints, here, until) {
    for (const row of this.#proposed(hints, here)) {
      if (Date.now() > until) return;
      yield [row, this.#forced(row)];
    }
  }

  /** The same with lines that are missing, printed in the gaps that are `here`. */
  *printed(missing, here, until) {
    for (const [number, place] of this.#places.entries()) {
      if (!place.gap || !here(number)) continue;
      for (const [visit, lines] of tried(missing, this.#counts[number], EACH)) {
        if (Date.now() > until) return;
        const row = new Row(number, visit, lines);
        yield [row, this.#forced(row)];
      }
    }
  }

  /** What to try, conditions first: they have one other value only. */
  *#proposed(hints, here) {
    const decides = (n) => (this.#places[n].decides ? 0 : 1);
    const order = this.#places.map((_, n) => n).sort((a, b) => decides(a) - decides(b));
    const pools = this.#pools();
    for (const number of order) {
      const seen = this.#seen[number];
      if (seen.length && here(number) && !this.#places[number].gap) yield* this.#at(number, seen, hints, pools);
    }
  }

  #pools() {
    const pools = {};
    const some = this.#seen.filter((_, number) => !this.#places[number].gap);
    for (const value of some.flatMap((seen) => seen.slice(0, 3))) {
      if (value === OPAQUE) continue;
      const pool = (pools[values.typeOf(value)] ??= []);
      if (pool.length < POOL && !pool.some((known) => alike(known, value))) pool.push(value);
    }
    return pools;
  }

  *#at(number, seen, hints, pools) {
    const count = this.#counts[number];
    if (this.#places[number].decides || typeof seen[0] === "boolean") {
      for (let n = 0; n < seen.length; n += 1) yield new Row(number, n + 1, !isTrue(seen[n]));
      if (count > 1) yield* [new Row(number, 0, true), new Row(number, 0, false)];
      return;
    }
    const poolOf = (value) => pools[values.typeOf(value)] ?? [];
    const same = seen.every((value) => alike(value, seen[0]));
    if (count > 1 && same && seen[0] !== OPAQUE) {
      for (const would of candidates(seen[0], hints, poolOf(seen[0]))) yield new Row(number, 0, would);
    }
    if (count > 1 && typeof seen[0] === "number") {
      for (const factor of hints.factors) yield new Row(number, 0, null, { factor });
      if (!same) for (const would of [1, 0, 2, -1]) yield new Row(number, 0, would);
    }
    if (count > 1 && !same) yield* this.#wherever(number, seen, hints);
    for (const [n, value] of (count > 1 ? seen.slice(0, EACH) : seen).entries()) {
      if (value === OPAQUE) continue;
      for (const would of candidates(value, hints, poolOf(value))) yield new Row(number, n + 1, would);
    }
  }

  /** Another value wherever it gives one certain value: a branch of its own may be missing. */
  *#wherever(number, seen, hints) {
    const simple = seen.filter((v) => typeof v === "number" || typeof v === "string");
    for (const gave of [...new Set(simple)].slice(0, WHEREVER)) {
      if (simple.filter((v) => v === gave).length < 2) continue;
      for (const would of candidates(gave, hints, []).slice(0, 10)) yield new Row(number, 0, would, { gave });
    }
  }

  #forced(row) {
    let count = 0;
    return this.#run((home) => (number, value) => {
      if (number !== row.place) return value;
      count += 1;
      return row.instead(count, value, home);
    });
  }

  /** A row as it is told: place, visit, what it gave, what it would have to give. Where it is
      exchanged at every visit, and gives several values, the first of them are told. */
  told(row) {
    if (row.would instanceof Printed) return [row.place, row.visit, "", row.would.text];
    const seen = this.#seen[row.place];
    const decides = this.#places[row.place].decides;
    let gave = [row.gave];
    if (row.gave === OPAQUE) {
      const alone = seen.every((value) => alike(value, seen[0]));
      gave = row.visit ? seen.slice(row.visit - 1, row.visit) : seen.slice(0, alone ? 1 : TOLD);
    }
    const would = gave.map((value) => row.instead(row.visit || 1, value, globalThis));
    const given = decides ? gave.map(isTrue) : gave; // it is asked for its truth alone
    const text = (some) => some.map((v) => (v === OPAQUE ? "<object>" : values.textOf(v))).join(THEN);
    return [row.place, row.visit, text(given), text(would)];
  }

  // -- moments --------------------------------------------------------------------------------

  /** What names meant at visits of an expression, with what it gives there, or should.

      `needed`: it was found that this value is right; else it is merely what it gave where nothing
      was wrong, and another value might do as well. */
  moments(place, row, names) {
    const found = [];
    let count = 0;
    this.#run((home) => (number, value, look) => {
      if (number !== place) return value;
      count += 1;
      const wanted = row === null ? value : row.instead(count, value, home);
      const needed = row !== null && row.concerns(count, value);
      if (found.length < MOMENTS || (needed && row.visit)) {
        const goal = kept(wanted, home);
        if (goal !== OPAQUE) found.push({ ...seenBy(look, names, home), wanted: goal, needed });
      }
      return wanted;
    }, place);
    return found;
  }
}

function isTrue(value) {
  return value === OPAQUE || Boolean(value);
}

/** What names mean where `look` looks, and `this`, as they are now. */
function seenBy(look, names, home) {
  const copier = new Copier(home);
  const found = new Map();
  for (const name of names) {
    try {
      found.set(name, copier.of(look(name)));
    } catch {
      // It is not of this place, or has no value yet.
    }
  }
  return { names: found, self: copier.of(itself(look)) };
}

function itself(look) {
  try {
    return look("this");
  } catch {
    return undefined; // ahead of what makes it, in a constructor
  }
}

Object.assign(exported, { Solving });
