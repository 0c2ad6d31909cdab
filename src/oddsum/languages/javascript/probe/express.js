/* Expressions that give the values that would be right, found without running the program.

   A *moment* is one visit of an expression: the names it could read there, with their values, and what
   it has to give. Expressions are built from the bottom up, first those that stand in the program
   already, then names, fields, items, constants and what common functions and operators make of them.
   Two that give the same at all moments are one (observational equivalence), so only the first, the
   smallest and nearest, is kept. What two operands have to be is looked up from the one and the value
   that is wanted. What is found is no more than a proposal: it is tried like any edit.

   Sources: R. Alur et al., "Syntax-guided synthesis", FMCAD 2013; A. Udupa et al., "TRANSIT:
   specifying protocols with concolic snippets", PLDI 2013 (bottom-up enumeration with observational
   equivalence).
*/
"use strict";

const values = ours("values");

const MOST = 24; // expressions that are told
const LEAVES = 60;
const THROUGH = 20; // fields of what a part is looked into
const PAIRS = 900; // expressions of one operator, that others are looked for beside
const LARGEST = 8; // size of an expression that is told
const LONG = 4_000; // letters of a text, items of a list: longer ones are not made
const BATCH = 60; // expressions that are worked out together

const SIGNS = {
  "+": (a, b) => a + b, "-": (a, b) => a - b, "*": (a, b) => a * b, "/": (a, b) => a / b, "%": (a, b) => a % b,
};
const ASKING = {
  "<": (a, b) => a < b, "<=": (a, b) => a <= b, ">": (a, b) => a > b, ">=": (a, b) => a >= b,
  "===": (a, b) => a === b, "!==": (a, b) => a !== b,
};
// For `wanted = a SIGN b`: what `b` has to be, or `a` where `turned` says so.
const INVERSE = [
  ["+", (w, a) => w - a, false], ["-", (w, a) => a - w, false], ["-", (w, a) => w + a, true],
  ["*", (w, a) => w / a, false], ["/", (w, a) => a / w, false], ["/", (w, a) => w * a, true],
];
// What is made of a value by its type; `x` stands for its text.
const UNARY = {
  number: ["Math.round(x)", "Math.floor(x)", "Math.ceil(x)", "Math.abs(x)", "-x", "String(x)"],
  string: ["Number(x)", "x.length", "x.trim()", "x.toLowerCase()", "x.toUpperCase()", "x[0]"],
  array: ["x.length", "x[0]", "x[x.length - 1]", "x.slice(1)", "x.slice(0, -1)", "[...x].reverse()"],
  numbers: ["Math.max(...x)", "Math.min(...x)", "x.reduce((a, b) => a + b, 0)", "[...x].sort((a, b) => a - b)"],
  Map: ["x.size", "[...x.keys()]", "[...x.values()]"],
  Set: ["x.size", "[...x]"],
  object: ["Object.keys(x)", "Object.values(x)"],
  boolean: ["!x"],
};
const NUMERIC = [0, 1, 2, 10, 60, 100];

/** Expressions that could stand at a place, the smallest and nearest first, with their size.

    `when`: it is a condition that is looked for, true where a moment is needed and nowhere else, not
    what stands there. `work` gives what texts come to at each moment. */
exported.expressions = function expressions(place, inner, words, moments, seconds, work, when) {
  if (!moments.some((m) => m.needed)) return [];
  const goals = when ? moments.map((m) => ({ ...m, wanted: m.needed, needed: true })) : moments;
  const search = new Search(place, inner, words, goals, seconds, work, when);
  search.find();
  return [...search.right].sort((a, b) => a[1] - b[1]).slice(0, MOST);
};

/** An expression with what it gives at each moment; `loose`: it needs brackets beside a sign. */
class Made {
  constructor(text, given, size, loose = false) {
    Object.assign(this, { text, given, size, loose });
  }

  /** The text as an operand. */
  get closed() {
    return this.loose ? `(${this.text})` : this.text;
  }
}

class Search {
  right = new Map();
  #known = new Map();
  #byNeeded = new Map();

  constructor(place, inner, words, moments, seconds, work, when) {
    const first = moments.filter((m) => m.needed); // so many come first: these values are right
    this.moments = [...first, ...moments.filter((m) => !m.needed)];
    Object.assign(this, { place, inner, words, seconds, when });
    this.work = (texts) => work(texts, this.moments);
    this.begun = Date.now();
    this.needed = first.length;
    this.wanted = this.moments.map((m) => m.wanted);
    this.keys = this.wanted.map(keyOf);
    // The more values it has to give, the less it says by chance: so large it may be then.
    const different = new Set(this.keys.slice(0, this.needed)).size;
    this.largest = Math.min(LARGEST, 3.5 + Math.min(different, this.needed));
    this.parts = new Set(wordsOf(place.text));
    this.types = new Set(this.wanted.slice(0, this.needed).map(values.typeOf));
  }

  find() {
    const stages = [
      [() => this.#standing(), 0.3], [() => this.#leaves(), 0.4], [() => this.#inside(), 0.6],
      [() => this.#unary(), 0.7], [() => this.#binary(), 0.85], [() => this.#truths(), 1],
    ];
    // A condition of its own has nothing to do with what stands there.
    for (const [stage, share] of this.when ? [1, 3, 4, 5].map((n) => stages[n]) : stages) {
      const until = this.begun + 1000 * share * this.seconds;
      for (const made of stage()) {
        this.#take(made);
        if (this.right.size >= 4 * MOST) return;
        if (Date.now() > until) break;
      }
    }
  }

  /** Keep an expression, where none that gives the same is known. */
  #take(made) {
    const keys = made.given.map(keyOf);
    if (keys.includes(null)) return;
    const [needed, all] = [keys.slice(0, this.needed).join(), keys.join()];
    const fits = needed === this.keys.slice(0, this.needed).join() && made.size <= this.largest;
    if (fits && made.text !== this.place.text && !this.right.has(made.text)) {
      this.right.set(made.text, made.size + this.#far(made.text) + this.#other(keys));
    }
    if (!this.#known.has(all)) this.#known.set(all, made);
    if (!this.#byNeeded.has(needed)) this.#byNeeded.set(needed, made);
  }

  /** What other values cost where nothing is wrong: a mend should change little there. */
  #other(keys) {
    const rest = this.keys.slice(this.needed);
    const unlike = rest.filter((key, n) => key !== keys[this.needed + n]).length;
    return rest.length ? (3 * unlike) / rest.length : 0;
  }

  /** How unlike what stands there: the share of words that one has and the other has not. */
  #far(text) {
    const words = new Set(wordsOf(text));
    const both = new Set([...words, ...this.parts]);
    const apart = [...both].filter((word) => !(words.has(word) && this.parts.has(word)));
    return both.size ? (3 * apart.length) / both.size : 0;
  }

  // -- stages ---------------------------------------------------------------------------------

  /** What texts come to, `[text, size]` each: those that fail somewhere, or come to no plain value, are left out. */
  *#texts(some) {
    for (let at = 0; at < some.length; at += BATCH) {
      const batch = some.slice(at, at + BATCH);
      const given = this.work(batch.map(([text]) => text));
      for (const [n, [text, size]] of batch.entries()) {
        if (given[n] !== null && given[n].every(fits)) yield new Made(text, given[n], size, isLoose(text));
      }
    }
  }

  /** Expressions that stand in the program already. */
  *#standing() {
    const found = this.words.standing.filter(([text]) => text !== this.place.text);
    const lines = found.map(([text, line]) => [text, Math.abs(line - this.place.line)]);
    const near = new Map(lines.sort((a, b) => b[1] - a[1])); // of each text the nearest comes last
    // It stands there: one thing, not its parts.
    yield* this.#texts([...near].reverse().slice(0, 150).map(([text, far]) => [text, 1.5 + Math.min(far, 40) / 40]));
  }

  /** Names, fields and items, constants of the program, 0, 1 and the empty ones. */
  *#leaves() {
    const names = [...new Set(this.moments.flatMap((m) => [...m.names.keys()]))].slice(0, LEAVES);
    yield* this.#texts(names.map((name) => [name, 1]));
    const first = this.moments[0];
    const fields = [["this", first.self], ...first.names].flatMap(([name, value]) =>
      fieldsOf(value).map((key) => [`${name}.${key}`, 1.5]));
    yield* this.#texts(fields.slice(0, 2 * LEAVES));
    yield* this.#texts(this.words.literals.map((text) => [text, 1 + 0.5 * (text.length > 3)]));
    if (this.types.has("boolean")) yield* this.#texts(this.#limits(names).map((text) => [text, 1]));
    yield* this.#texts(["0", "1", "2", "-1", "true", "false", "null", "undefined", "[]", '""'].map((t) => [t, 1]));
  }

  /** Numbers that part the moments at which a condition holds from the others, by name. */
  #limits(names) {
    const found = new Set();
    for (const name of names) {
      const seen = this.moments.map((m) => m.names.get(name));
      if (!areNumbers(seen)) continue;
      const [holds, fails] = [true, false].map((side) => seen.filter((_, n) => Boolean(this.wanted[n]) === side));
      if (!holds.length || !fails.length) continue;
      for (const some of [holds, fails]) [Math.min(...some), Math.max(...some)].forEach((n) => found.add(String(n)));
    }
    return [...found];
  }

  /** What stands there with one part of it changed: a name, a field, an operand more. */
  *#inside() {
    const written = this.place.text;
    if (written.length > 160) return;
    const leaves = this.#nearLeaves(written);
    const texts = this.inner.flatMap((part) =>
      changed(part, leaves).map(([instead, size]) =>
        [written.slice(0, part.from) + instead + written.slice(part.to), size]));
    yield* this.#texts(texts);
  }

  /** Names that the expression has or could have, and fields that stand somewhere. */
  #nearLeaves(written) {
    const values = [...this.moments[0].names].filter(([, value]) => typeof value !== "function").map(([n]) => n);
    const own = wordsOf(written).filter((word) => values.includes(word));
    const bases = new Set(written.match(/\b[A-Za-z_$][\w$]*(?=\.\w)/g) ?? []);
    const items = [...this.moments[0].names.values()].flatMap((v) => (Array.isArray(v) ? fieldsOf(v[0]) : []));
    const fields = new Set([...this.words.fields, ...items]);
    const through = [...bases].flatMap((base) => [...fields].map((field) => `${base}.${field}`));
    return [...new Set([...own, ...values])].slice(0, 14).concat(through.slice(0, THROUGH));
  }

  /** What common functions and methods make of what is known. */
  *#unary() {
    const some = this.#few(250).filter((one) => !isConstant(one.text));
    yield* this.#texts(some.flatMap((one) => {
      const type = values.typeOf(one.given[0]);
      const numbers = type === "array" && one.given[0].length > 0 && areNumbers(one.given[0]);
      const forms = [...(UNARY[type] ?? []), ...(numbers ? UNARY.numbers : [])];
      return forms.map((form) => [filled(form, one), one.size + 1]);
    }));
  }

  /** What signs make of two, then what is wanted of one of these and something else. */
  *#binary() {
    if (this.types.has("number")) yield* this.#numbers();
    else if (this.types.has("string")) {
      const texts = this.#few(120).filter((one) => typeof one.given[0] === "string");
      for (const one of texts) for (const other of texts) yield* pair(one, other, "+");
    }
    if (this.types.has("array")) yield* this.#lists();
    yield* this.#items();
  }

  /** Lists with an item more, ahead or behind. */
  *#lists() {
    const some = this.#few(120);
    const lists = some.filter((one) => values.typeOf(one.given[0]) === "array").slice(0, 30);
    const items = some.filter((one) => !isConstant(one.text) && ["number", "string"].includes(typeof one.given[0])).slice(0, 20);
    for (const list of lists) {
      for (const item of items) {
        const size = list.size + item.size + 0.5;
        const ahead = each((a, b) => [b, ...a], list, item);
        const behind = each((a, b) => [...a, b], list, item);
        if (ahead !== null) yield new Made(`[${item.text}, ...${list.closed}]`, ahead, size);
        if (behind !== null) yield new Made(`[...${list.closed}, ${item.text}]`, behind, size);
      }
    }
  }

  /** Items of lists, texts, objects and Maps, by what is known. */
  *#items() {
    const some = this.#few(160);
    const keys = some.filter((one) => ["number", "string"].includes(typeof one.given[0])).slice(0, 60);
    for (const one of some.filter((m) => ["array", "string", "object", "Map"].includes(values.typeOf(m.given[0]))).slice(0, 40)) {
      const map = values.typeOf(one.given[0]) === "Map";
      for (const key of keys) {
        const given = each((a, k) => (map ? a.get(k) : Object.hasOwn(Object(a), k) ? a[k] : undefined), one, key);
        if (given === null || given.includes(undefined)) continue;
        const text = map ? `${one.closed}.get(${key.text})` : `${one.closed}[${key.text}]`;
        yield new Made(text, given, one.size + key.size + 0.5);
      }
    }
  }

  *#numbers() {
    const leaves = this.#few(400).filter((one) => areNumbers(one.given)).slice(0, LEAVES);
    for (const one of leaves) {
      for (const other of leaves) {
        for (const sign of Object.keys(SIGNS)) {
          if (!("+*".includes(sign) && one.text > other.text)) yield* pair(one, other, sign);
        }
      }
    }
    const many = this.#few(PAIRS * 4).filter((one) => areNumbers(one.given)).slice(0, PAIRS);
    if (areNumbers(this.wanted.slice(0, this.needed))) for (const one of many) yield* this.#beside(one);
  }

  /** `one` and a sign and something known that give what is wanted. */
  *#beside(one) {
    for (const [sign, inverse, turned] of INVERSE) {
      const key = this.wanted.slice(0, this.needed).map((w, n) => keyOf(inverse(w, one.given[n]))).join();
      const other = this.#byNeeded.get(key);
      if (other !== undefined) yield* turned ? pair(other, one, sign) : pair(one, other, sign);
    }
  }

  /** Conditions: comparisons, and what is there with one of them beside it. */
  *#truths() {
    if (![...this.types].every((type) => type === "boolean")) return;
    const some = this.#few(70);
    const made = some.flatMap((one) => some.flatMap((other) => (one === other ? [] : compared(one, other))));
    yield* made;
    const here = this.when ? null : this.work([this.place.text])[0];
    if (here === null) return;
    const closed = isLoose(this.place.text) ? `(${this.place.text})` : this.place.text;
    for (const one of made.sort((a, b) => a.size - b.size).slice(0, 3000)) {
      const both = here.map((truth, n) => Boolean(truth) && Boolean(one.given[n]));
      const either = here.map((truth, n) => Boolean(truth) || Boolean(one.given[n]));
      yield new Made(`${closed} && ${one.text}`, both, 1 + one.size, true);
      yield new Made(`${closed} || ${one.text}`, either, 1 + one.size, true);
    }
  }

  /** The smallest of what is known. */
  #few(most) {
    return [...this.#known.values()].sort((a, b) => a.size - b.size).slice(0, most);
  }
}

/** A form with an expression for its `x`. */
function filled(form, one) {
  return form.replace(/\(x\)|\bx\b/g, (found) => (found === "x" ? one.closed : `(${one.text})`));
}

/** Other texts for a part of an expression, with what they cost. */
function changed(part, leaves) {
  const [old, isName] = [part.text, part.kind === "name"];
  const found = [];
  for (const leaf of leaves.filter((one) => one !== old)) {
    if (isName || part.kind === "number" || part.kind === "text") found.push([leaf, 2.2]);
    if (isName || part.kind === "call") {
      for (const sign of "*+-/") found.push([`${old} ${sign} ${leaf}`, 3]);
    }
  }
  if (part.kind === "number") found.push(...NUMERIC.map((number) => [String(number), 2.4]));
  return found;
}

function* pair(one, other, sign) {
  if (isIdle(one.text, sign, other.text)) return;
  const given = each(SIGNS[sign], one, other);
  if (given !== null) yield new Made(`${one.closed} ${sign} ${other.closed}`, given, one.size + other.size + 0.5, true);
}

function compared(one, other) {
  if (isConstant(one.text)) return []; // `age > 5`, not `5 < age`
  const [a, b, fixed] = [one.given[0], other.given[0], isConstant(other.text)];
  const size = one.size + other.size + 0.5;
  const either = one.text < other.text || fixed;
  let signs = [];
  if (typeof a === "number" && typeof b === "number") {
    signs = ["<", "<=", ...(fixed ? [">", ">="] : []), ...(either ? ["===", "!=="] : [])];
  } else if (typeof a === "string" && typeof b === "string" && either) signs = ["===", "!=="];
  const made = [];
  for (const sign of signs) {
    const given = each(ASKING[sign], one, other);
    // `===` holds for one value alone: less is to be said by it; that there is none of something is said often.
    const alone = sign.length < 3 ? 0 : other.text === "0" ? -0.25 : 1;
    if (given !== null) made.push(new Made(`${one.closed} ${sign} ${other.closed}`, given, size + alone, true));
  }
  const method = { array: "includes", string: "includes", Set: "has", Map: "has" }[values.typeOf(b)];
  if (method !== undefined && !(typeof b === "string" && typeof a !== "string")) {
    const text = `${other.closed}.${method}(${one.text})`;
    const given = each((inside, item) => inside[method](item), other, one);
    if (given !== null) {
      made.push(new Made(text, given, size), new Made(`!${text}`, given.map((v) => !v), size, true));
    }
  }
  return made;
}

/** What a function makes of two lists of values, one by one; null where it cannot. */
function each(make, ones, others) {
  const made = [];
  for (let n = 0; n < ones.given.length; n += 1) {
    let value;
    try {
      value = make(ones.given[n], others.given[n]);
    } catch {
      return null;
    }
    if (!fits(value)) return null;
    made.push(value);
  }
  return made;
}

/** Whether a value is plain and of a size that can be looked through. */
function fits(value) {
  if (typeof value === "number") return Number.isFinite(value);
  if (typeof value === "string" || Array.isArray(value)) return value.length <= LONG;
  if (value === null || value === undefined || typeof value === "boolean") return true;
  return typeof value === "object" && ["object", "Map", "Set", "Date"].includes(values.typeOf(value));
}

/** What tells values apart: fractions that differ by noise are one. */
function keyOf(value) {
  if (typeof value === "number") return Number.isFinite(value) ? String(Number(value.toPrecision(10)) + 0) : null;
  return values.textOf(value, 4);
}

function areNumbers(some) {
  return some.every((value) => typeof value === "number");
}

function fieldsOf(value) {
  if (value === null || typeof value !== "object" || Array.isArray(value)) return [];
  return values.fieldsOf(value).filter(([key, one]) => /^[A-Za-z]\w*$/.test(key) && fits(one)).map(([key]) => key);
}

function isConstant(text) {
  return /^([\d'"]|-\d|\(-|true$|false$|\[\]$)/.test(text);
}

/** Whether an expression needs brackets beside a sign. */
function isLoose(text) {
  return !/^([\w$.]+|'[^']*'|"[^"]*"|[\w$.]+\([^()]*\)|[\w$.]+\[[^[\]]*\]|\[[^[\]]*\])$/.test(text);
}

/** Whether a sign changes nothing, or has nothing but constants beside it. */
function isIdle(one, sign, other) {
  if (isConstant(one) && isConstant(other)) return true;
  if (["0", "''", '""', "[]"].includes(other)) return "+-".includes(sign);
  const minus = other.startsWith("-") || one.startsWith("-");
  if (other === "1" || minus) return "*/%".includes(sign) || minus;
  return (one === "0" && sign === "+") || (one === "1" && sign === "*");
}

function wordsOf(text) {
  return text.match(/[A-Za-z0-9_$]+/g) ?? [];
}
