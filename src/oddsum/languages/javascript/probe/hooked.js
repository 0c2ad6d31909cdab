/* The program with its expressions hooked: which values would be right, and what gives them.

   The texts come ready from the tool (`sites.py`), a hook around each expression; what is asked here
   is run, noted and searched in `solving.js`, `would.js` and `express.js`. */
"use strict";

const { Buffer } = native("buffer");
const vm = native("vm");

const { Copier } = ours("copies");
const { expressions } = ours("express");
const { missingText } = ours("gaps");
const { Solving } = ours("solving");
const { Hints } = ours("would");

const CALLED = 5_000; // rounds and calls of a function that is called to see what it gives

class Hooked {
  #sites;
  #start;
  #solving;
  #compiled = new Map();
  #marked = null; // the place from which names can be looked at
  #case;
  #asked;
  #last; // the run that was last

  /** `start` runs a case with a hook, the program as `script` has it; returns the run, once over. */
  constructor(sites, compile, start) {
    this.#sites = sites;
    this.#start = start;
    this.#solving = new Solving(sites.places, (hear, place = null) => this.#ran(hear, place));
    this.compile = compile;
  }

  #ran(hear, place) {
    this.#marked = place;
    this.#last = this.#start(this.#case, this.#asked, hear, (name, calls) => this.#script(name, calls));
    return this.#last.did;
  }

  /** A file with hooks, null where it has none; where a place is looked from, with a way to its names. */
  #script(name, calls) {
    const readings = this.#sites.texts[name];
    if (readings === undefined) return null;
    const reading = calls && "call" in readings ? "call" : "whole";
    const key = `${name} ${reading} ${this.#marked}`;
    if (!this.#compiled.has(key)) {
      const text = readings[reading].replace(`/*ǂ${this.#marked}*/`, ",(ǂe)=>eval(ǂe)");
      this.#compiled.set(key, this.compile(name, text));
    }
    return this.#compiled.get(key);
  }

  /** Try other values on a case. `number` numbers what a run did; gives the rows of the answer. */
  values(one, asked, number) {
    this.#case = one;
    this.#asked = asked;
    const solving = this.#solving;
    const base = solving.listen();
    const same = number(base);
    const rows = [];
    const returned = base.returned ?? {};
    const expected = returned.expected ?? asked.expected ?? "";
    const actual = returned.actual ?? Buffer.from(base.output, "base64").toString("utf8");
    const read = returned.expected === undefined ? null : (text) => this.#read(text);
    const until = Date.now() + 1000 * asked.spend;
    const [share, shares] = asked.share;
    const only = asked.only === null ? null : new Set(asked.only);
    const mine = (place) => place % shares === share;
    const here = only === null ? mine : (place) => only.has(place);
    const missing = read === null ? missingText(expected, actual) : null;
    const take = ([row, did]) => {
      const outcome = number(did);
      if (outcome === same) return;
      rows.push([solving.rows.length, ...solving.told(row), outcome]);
      solving.rows.push(row);
    };
    for (const one of solving.printed(missing, mine, until)) take(one);
    for (const one of solving.values(new Hints(expected, actual, read), here, until)) take(one);
    return rows;
  }

  /** The value of a text that tells one; undefined where it is none to be read. */
  #read(text) {
    try {
      return vm.runInContext(`(${text}\n)`, this.#last.world.context, { timeout: 50 });
    } catch {
      return undefined;
    }
  }

  get places() {
    return this.#sites.places.map((one) => [one.file, one.start, one.stop, one.line]);
  }

  /** Of the places those that are gaps, with their side, and whether their function prints. */
  get gaps() {
    return this.#sites.places.flatMap((one, n) => (one.gap ? [[n, one.gap, one.prints]] : []));
  }

  /** Look for expressions that give what is wanted; returns `[text, size]` each. */
  express(asked, cases) {
    this.#asked = asked;
    const place = this.#sites.places[asked.place];
    const words = this.#sites.words[place.file];
    const wanted = asked.rows.map(([number, row]) => [number, this.#solving.rows[row]]);
    const moments = [];
    for (const [number, row] of [...wanted, ...asked.agreeing.map((number) => [number, null])]) {
      this.#case = cases.get(number);
      moments.push(...this.#solving.moments(asked.place, row, words.names));
    }
    const work = (texts, some) => this.#worked(texts, some, words.names);
    return expressions(place, this.#inner(place), words, moments, asked.spend, work, asked.when);
  }

  /** The expressions inside of one, with where they stand in its text. */
  #inner(place) {
    if (place.gap) return [];
    const within = (one) =>
      one !== place && one.file === place.file && place.start <= one.start && one.stop <= place.stop;
    return this.#sites.places.filter(within).flatMap((one) => {
      const from = one.start - place.start;
      const found = place.text.slice(from, from + one.text.length) === one.text; // letters of two units shift it
      return found ? [{ ...one, from, to: from + one.text.length }] : [];
    });
  }

  /** What texts come to at each moment, null for each that fails at one of them. */
  #worked(texts, moments, names) {
    const { context, global } = this.#last.world;
    const made = this.#function(texts, names, context);
    if (made === null) return texts.length === 1 ? [null] : texts.flatMap((text) => this.#worked([text], moments, names));
    const given = texts.map(() => []);
    for (const moment of moments) {
      const afresh = () => {
        const copier = new Copier(global);
        return made.apply(copier.of(moment.self), names.map((name) => copier.of(moment.names.get(name))));
      };
      let thunks = afresh();
      for (const [n, text] of texts.entries()) {
        if (given[n] === null) continue;
        this.#last.run.allow(CALLED);
        try {
          given[n].push(thunks[n]());
        } catch {
          given[n] = null;
        }
        if (text.includes("(")) thunks = afresh(); // what was called may have changed something
      }
    }
    return given;
  }

  #function(texts, names, context) {
    const thunks = texts.map((text) => `()=>(${text})`).join(",\n");
    try {
      return vm.runInContext(`(function(${names.join()}){return [${thunks}\n]})`, context);
    } catch {
      return null;
    }
  }
}

Object.assign(exported, { Hooked });
