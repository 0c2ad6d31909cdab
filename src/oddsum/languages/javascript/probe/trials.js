/* Trials: the program with edits switched on, many times in one process.

   A world (a context of node's `vm`) has what a script finds: the language anew, and stand-ins for
   what node gives besides. Each trial has one of its own where the program could leave something in
   it; of one that names nothing of the kind (`clean`, see `loading.py`) all variables are the
   function's that it is compiled as, and the next trial may use the world again. Time does not pass: timers
   come in their order as soon as nothing else is to be done. What cannot be had here, as a server or
   another program, makes the trial no trial: it counts as one that crashed, and mends are confirmed in
   processes of their own in any case.
*/
"use strict";

const fs = native("fs");
const path = native("path");
const vm = native("vm");
const { types } = native("util");
const { Console } = native("console");
const { Buffer } = native("buffer");
const { performance } = native("perf_hooks");

const { Hooked } = ours("hooked");
const lots = ours("lots");
const { handOn } = ours("solving");
const values = ours("values");
const { stands } = ours("stands");

const MOST_TIMERS = 10_000;
const PATIENCE = 60; // milliseconds that a run without counters may take in any case
const TIMES = 50; // times what the program itself took, that it may take beside
const DO = new vm.Script("ǂdo()");
const SETTLING = new vm.Script(`
  globalThis.global = globalThis;
  ({ global: globalThis, own: { Promise, Error, Date }, soon: (work) => Promise.resolve().then(() => work()) })
`);
const STOPPED = Symbol("stopped");
// Made in the world: what is done once a promise is settled waits in the queue of whoever made it.
const SETTLE = new vm.Script(`(promise, box) => {
  promise.then((value) => { box.value = value; box.settled = true; },
    (reason) => { box.reason = reason; box.settled = true; });
}`);

exported.serve = function serve(request, channel, next) {
  const trials = new Trials(request);
  channel.send("hello", { python: `node ${outside.process.version}` });
  for (let asked = next(); asked !== null; asked = next()) {
    if (asked.do === "load") trials.load(asked);
    else if (asked.do === "express") {
      channel.send("expressed", { id: asked.id, texts: trials.expressed(asked) });
    } else {
      trials.ready(asked.case);
      channel.send("built", { id: asked.id });
      const [kind, did] = asked.do === "values" ? ["valued", trials.valued(asked)] : ["tried", trials.tried(asked)];
      channel.send(kind, { id: asked.id, case: asked.case, ...did });
    }
  }
  outside.process.reallyExit(0);
};

class Trials {
  #request;
  #cases;
  #edits = [];
  #made = { scripts: {}, calls: {}, plain: {}, apart: [], spans: {}, older: {}, waits: [] };
  #apart = new Set();
  #idle = new Set(); // edits of what no call needs
  #compiled = new Map();
  #known = new Map();
  #switches = [];
  #ticks = 0;
  #took = new Map(); // by case, milliseconds of its last run without an edit
  #world = null;
  #hooked = null; // the program with its expressions hooked, while values are tried

  constructor(request) {
    this.#request = request;
    this.#cases = new Map(request.cases.map((one) => [one.number, one]));
    outside.process.chdir(request.folder);
  }

  load(asked) {
    this.#edits = asked.edits;
    this.#made = asked.made;
    this.#apart = new Set(asked.made.apart);
    this.#idle = new Set(asked.made.idle);
    this.#compiled.clear();
    this.#hooked = asked.made.sites && this.#withHooks(asked.made.sites);
    this.#switches = new Array(asked.edits.length).fill(0);
    for (const one of asked.cases) this.#cases.set(one.number, one);
  }

  /** Run trials until their time is over; returns the fields of `tried`. */
  tried(asked) {
    const [number, told] = this.#numbering(asked.case);
    const outcomes = [];
    const until = Date.now() + 1000 * asked.spend;
    for (const numbers of asked.numbers) {
      const alone = numbers.some((n) => this.#apart.has(n)) || !this.#areSeparate(numbers);
      if (alone && numbers.length > 1 && !asked.apart) {
        outcomes.push(-1);
        continue;
      }
      const did = this.#did(this.#cases.get(asked.case), numbers, alone, asked);
      outcomes.push(number(did));
      if (Date.now() > until) break;
    }
    return { outcomes, new: told, dirty: false, spoilt: false, refused: [], ticks: this.#ticks };
  }

  /** Try other values of expressions; returns the fields of `valued`. */
  valued(asked) {
    const [number, told] = this.#numbering(asked.case);
    const rows = this.#hooked.values(this.#cases.get(asked.case), asked, number);
    const { places, gaps } = this.#hooked;
    return { rows, new: told, places, gaps, dirty: false, spoilt: false };
  }

  /** Look for expressions that give what is wanted; returns them. */
  expressed(asked) {
    return this.#hooked === null ? [] : this.#hooked.express(asked, this.#cases);
  }

  #withHooks(sites) {
    const start = (one, asked, hear, script) => {
      const world = this.#worldFor();
      const plainly = (name, calls) => script(name, calls) ?? this.#script(name, calls, []);
      const run = new Run(this.#request, one, asked, this.#switches, null, world, plainly, this.#made.printing, hear(world.global));
      try {
        return { did: run.told(), run, world };
      } finally {
        if (!world.isAsItWas()) this.#world = null;
      }
    };
    return new Hooked(sites, (name, text) => this.#compile(name, text), start);
  }

  /** What numbers what a run of a case did, and what was told of by none before. */
  #numbering(one) {
    if (!this.#known.has(one)) this.#known.set(one, new Map());
    const known = this.#known.get(one);
    const told = [];
    const number = (did) => {
      const key = JSON.stringify(did);
      if (!known.has(key)) {
        known.set(key, known.size);
        told.push(did);
      }
      return known.get(key);
    };
    return [number, told];
  }

  /** Compile what will be run: only then is it known which edits go together. */
  ready(number) {
    const { call } = this.#cases.get(number);
    const calls = call !== null && call !== undefined;
    for (const name of Object.keys(this.#made.scripts)) {
      try {
        this.#script(name, calls, []);
      } catch {
        // The program itself cannot start; each of its runs says so.
      }
    }
  }

  /** A world to run in: the one before, where the program can have left nothing in it. */
  #worldFor() {
    if (this.#world === null || !this.#made.clean) this.#world = new World();
    return this.#world;
  }

  #areSeparate(numbers) {
    const spans = numbers.flatMap((n) => this.#made.spans[n] ?? []).sort((a, b) => a[0] - b[0]);
    return spans.every((span, n) => n === 0 || spans[n - 1][1] < span[0]);
  }

  #did(one, every, alone, asked) {
    const calls = one.call !== null && one.call !== undefined;
    const numbers = calls ? every.filter((n) => !this.#idle.has(n)) : every;
    for (const n of alone ? [] : numbers) this.#switches[n] = 1;
    const world = this.#worldFor();
    const timeout = alone ? this.#patience(one.number, asked.seconds) : null;
    const run = new Run(this.#request, one, asked, this.#switches, timeout, world, (name, calls) =>
      this.#script(name, calls, alone ? numbers : []), this.#made.printing);
    const begun = performance.now();
    try {
      return run.told();
    } finally {
      if (!every.length) this.#took.set(one.number, performance.now() - begun);
      if (!world.isAsItWas()) this.#world = null;
      this.#switches.fill(0);
      this.#ticks = run.ticks;
    }
  }

  /** Milliseconds for a run that has no counters in it: many times what the program itself took. */
  #patience(number, seconds) {
    const most = Math.max(1, Math.ceil(1000 * seconds));
    const took = this.#took.get(number);
    return took === undefined ? most : Math.min(most, Math.ceil(Math.max(PATIENCE, TIMES * took)));
  }

  /** The compiled text of a file: with all edits in it, or with some that stand alone. */
  #script(name, calls, numbers) {
    const key = `${name} ${calls} ${numbers.join(" ")}`;
    if (this.#compiled.has(key)) return this.#compiled.get(key);
    const { plain } = this.#made;
    let text = calls && this.#made.calls[name] !== undefined ? this.#made.calls[name] : this.#made.scripts[name];
    if (numbers.length || text === undefined) {
      text = (calls ? this.#made.kept[name] : undefined) ?? plain[name] ?? readOwn(this.#request.folder, name);
      const splices = numbers.flatMap((n) => this.#edits[n][name] ?? []).sort((a, b) => b[0] - a[0]);
      for (const [start, stop, instead] of splices) text = spliced(text, start, stop, instead);
    }
    const made = numbers.length ? this.#compile(name, text) : this.#withEdits(name, text, calls);
    if (numbers.length) return made;
    this.#compiled.set(key, made);
    return made;
  }

  /** A text with all edits in it. Where one of them can stand in no program, none could be tried
      with it: then each is compiled by itself, and this is the text without any. */
  #withEdits(name, text, calls) {
    try {
      return this.#compile(name, text);
    } catch {
      this.#edits.forEach((edit, n) => name in edit && this.#apart.add(n));
      return this.#compile(name, (calls ? this.#made.kept[name] : undefined) ?? this.#made.plain[name] ?? text);
    }
  }

  /** A module of the newer kind with what it imports required: see `older.py`. */
  #older(name, text) {
    let older = text;
    for (const [newer, instead] of this.#made.older[name] ?? []) older = older.replace(newer, () => instead);
    return older;
  }

  #compile(name, text) {
    const hook = name === this.#request.program ? "\n;ǂwith((ǂtext) => eval(ǂtext));" : "";
    const slow = this.#made.waits.includes(name) ? "async " : "";
    return new vm.Script(
      `(${slow}function (exports, require, module, __filename, __dirname, ǂs, ǂt, ǂv) {${this.#older(name, text)}${hook}\n})`,
      { filename: path.join(this.#request.folder, name) },
    );
  }
}

/** Offsets count characters as Python does: a letter beyond the first plane is one. */
function spliced(text, start, stop, instead) {
  if (/^[\0-\uffff]*$/.test(text) && !/[\ud800-\udfff]/.test(text)) {
    return text.slice(0, start) + instead + text.slice(stop);
  }
  const letters = [...text];
  return [...letters.slice(0, start), instead, ...letters.slice(stop)].join("");
}

function readOwn(folder, name) {
  return fs.readFileSync(path.join(folder, name), "utf8");
}

/** A context with what every run finds in it. */
class World {
  #names;
  #console = null;
  #print = null;

  constructor() {
    this.context = vm.createContext({}, { microtaskMode: "afterEvaluate" });
    const { global, own, soon } = SETTLING.runInContext(this.context);
    Object.assign(this, { global, own, soon });
  }

  /** Whether no run has left a name in it: what a program sets is found in the object it was made of. */
  isAsItWas() {
    const count = Reflect.ownKeys(this.context).length;
    this.#names ??= count;
    return count === this.#names;
  }

  /** A name for something that is made where the program asks for it. */
  offer(name, make) {
    const { context } = this;
    Object.defineProperty(context, name, {
      configurable: true, enumerable: true, get: make,
      set: (value) => Object.defineProperty(context, name, { value, writable: true }),
    });
  }

  /** What prints, for one run; `plain`: it is asked for nothing that it would remember. */
  consoleFor(print, plain) {
    const sink = { write: (text) => this.#print(text) };
    const made = () => new Console({ stdout: sink, stderr: { write() {} }, ignoreErrors: false });
    this.#print = print;
    if (!plain) return made();
    this.#console ??= made();
    return Object.create(this.#console); // what a program gives it is its own
  }
}

/** One run of a case in a world. */
class Run {
  #request;
  #case;
  #asked;
  #script;
  #world;
  #output = [];
  #size = 0;
  #left;
  #tripped = false;
  #full = false;
  #within = null;
  #ours; // the switches, the counter and the hook: a name of the world takes a microsecond to look up
  #modules = new Map();
  #stands;
  #returned = null;
  #checked = null;
  #checkError = "";
  ticks = 0;

  constructor(request, one, asked, switches, timeout, world, script, plain, hook = handOn) {
    // A clock to stop it costs as much as a small run: only what has no counters in it has one.
    this.#limit = timeout === null ? undefined : { timeout };
    this.#request = request;
    this.#case = one;
    this.#asked = asked;
    this.#script = script;
    this.#left = asked.rounds;
    this.#ours = [switches, () => this.#tick(), hook];
    this.#stands = stands({
      typed: one.stdin || "",
      args: one.args || [],
      program: path.join(request.folder, request.program),
      print: (text) => this.#print(text),
      own: (name, from) => this.#require(name, from),
      folder: request.folder,
    });
    this.#world = world.context;
    Object.assign(this.#world, this.#stands.globals, {
      console: world.consoleFor((text) => this.#print(text), plain),
      ǂwith: (within) => (this.#within = within),
    });
    world.offer("process", this.#stands.process);
    this.#stands.settle(world);
    lots.installIn(world.global, one.seed);
    world.global.Date = world.own.Date;
    lots.fixDateIn(world.global, one.today, world.own.Date);
  }

  /** Once it is over: so many rounds and calls more, for a function of the program's. */
  allow(count) {
    this.#left = count;
    this.#size = 0;
    this.#tripped = false;
    this.#output.length = 0;
  }

  #tick() {
    this.#left -= 1;
    if (this.#left < 0 || this.#tripped) {
      this.#tripped = true;
      throw STOPPED;
    }
  }

  #print(text) {
    const shown = String(text);
    this.#size += shown.length;
    if (this.#size > this.#asked.output) {
      this.#full = true;
      this.#tripped = true;
      throw STOPPED;
    }
    this.#output.push(shown);
  }

  /** What it came to, as the wire has it. */
  told() {
    let error = null;
    try {
      error = this.#go();
    } catch (thrown) {
      error = this.#failed(thrown);
    }
    this.ticks = this.#asked.rounds - this.#left;
    const ending = this.#full ? "output" : this.#tripped ? "time" : error ? "raised" : "ended";
    const starved = this.#stands.starved();
    return {
      ending,
      status: this.#stands.status(),
      error: ending === "raised" ? error : null,
      starved: starved && error !== null && error.type === "InputEnded",
      unread: this.#stands.unread().slice(0, 1000),
      returned: this.#returned,
      checked: this.#checked,
      check_error: this.#checkError,
      output: Buffer.from(this.#output.join(""), "utf8").toString("base64"),
      asked: this.#stands.asked(),
      written: {},
    };
  }

  #go() {
    const { call } = this.#case;
    const calls = call !== null && call !== undefined;
    this.#evaluated(() => this.#load(this.#request.program, calls));
    if (this.#failure) return this.#failure;
    if (calls) this.#call();
    else this.#drain();
    if (this.#failure) return this.#failure;
    if (this.#case.check && !calls) this.#check(undefined);
    if (this.#stands.starved()) return ended();
    return null;
  }

  #failure = null;
  #limit;

  /** Do something in the world, and what it has put off. */
  #evaluated(what) {
    this.#world.ǂdo = what;
    try {
      DO.runInContext(this.#world, this.#limit);
    } catch (thrown) {
      this.#failure = thrown === this.#stands.left ? null : this.#failed(thrown);
    }
    const rejected = this.#stands.rejected();
    if (rejected !== null && this.#failure === null) this.#failure = this.#failed(rejected.reason);
  }

  #drain() {
    for (let n = 0; n < MOST_TIMERS && this.#failure === null && this.#stands.waits(); n += 1) {
      this.#evaluated(() => this.#stands.next());
    }
    if (this.#stands.waits() && this.#failure === null) this.#tripped = true;
  }

  #load(name, calls) {
    const file = path.join(this.#request.folder, name);
    if (this.#modules.has(file)) return this.#modules.get(file).exports;
    const module = { exports: {}, id: file, filename: file, loaded: false, children: [], paths: [] };
    this.#modules.set(file, module);
    const made = this.#script(name, calls).runInContext(this.#world);
    const require = (wanted) => this.#require(wanted, file);
    require.main = calls ? undefined : this.#modules.get(path.join(this.#request.folder, this.#request.program));
    made.call(module.exports, module.exports, require, module, file, path.dirname(file), ...this.#ours);
    module.loaded = true;
    return module.exports;
  }

  #require(wanted, from) {
    if (!wanted.startsWith(".")) return this.#stands.module(wanted);
    const base = path.resolve(path.dirname(from), wanted);
    for (const ending of ["", ".js", ".cjs", ".json", "/index.js"]) {
      const file = `${base}${ending}`;
      if (fs.existsSync(file) && fs.statSync(file).isFile()) {
        if (file.endsWith(".json")) return JSON.parse(fs.readFileSync(file, "utf8"));
        return this.#load(path.relative(this.#request.folder, file), false);
      }
    }
    throw new outside.Error(`Cannot find module '${wanted}'`);
  }

  #call() {
    const one = this.#case;
    const within = this.#within;
    this.#output.length = 0;
    this.#stands.forget();
    let gave;
    let expected;
    this.#evaluated(() => {
      if (one.before) within(one.before);
      if (one.returns) expected = this.#expected(one.returns);
      gave = within(`(${one.call}\n)`);
    });
    if (this.#failure) return;
    if (types.isPromise(gave)) {
      const box = { settled: false };
      this.#evaluated(() => SETTLE.runInContext(this.#world)(gave, box));
      for (let n = 0; !box.settled && n < MOST_TIMERS && this.#stands.waits(); n += 1) {
        this.#evaluated(() => this.#stands.next());
      }
      if ("reason" in box) this.#failure = this.#failed(box.reason);
      if (this.#failure) return;
      gave = box.value;
    } else {
      this.#drain();
    }
    this.#returned = { actual: values.textOf(gave), type: values.typeOf(gave) };
    if (one.returns) {
      this.#returned.expected = values.textOf(expected);
      this.#returned.expected_type = values.typeOf(expected);
      this.#returned.own_names = [];
      this.#returned.equal = values.same(expected, gave, one.tolerance);
    }
    if (one.check) this.#check(gave);
  }

  #expected(text) {
    try {
      return vm.runInContext(`(${text}\n)`, this.#world);
    } catch {
      return this.#within(`(${text}\n)`);
    }
  }

  #check(result) {
    this.#world.result = result;
    this.#world.stdout = this.#output.join("");
    try {
      const work = this.#within ?? ((text) => vm.runInContext(text, this.#world));
      this.#checked = Boolean(work(`(${this.#case.check}\n)`));
    } catch (error) {
      this.#checked = false;
      this.#checkError = `${error?.name ?? "Error"}: ${error?.message ?? error}`;
    }
  }

  #failed(thrown) {
    if (thrown === STOPPED || this.#tripped) {
      this.#tripped = true;
      return null;
    }
    if (thrown && thrown.code === "ERR_SCRIPT_EXECUTION_TIMEOUT") {
      this.#tripped = true;
      return null;
    }
    if (thrown === this.#stands.left) return null;
    if (!types.isNativeError(thrown)) {
      return { type: "thrown", message: values.textOf(thrown), bases: ["thrown"], file: null, line: null };
    }
    const bases = [];
    for (let kind = Object.getPrototypeOf(thrown); kind; kind = Object.getPrototypeOf(kind)) {
      const name = kind.constructor?.name;
      if (name && name !== "Object" && !bases.includes(name)) bases.push(name);
    }
    const name = String(thrown.name);
    return { type: name, message: String(thrown.message).slice(0, 2000), bases: [name, ...bases], file: null, line: null };
  }
}

function ended() {
  return { type: "InputEnded", message: "there is no more input", bases: ["InputEnded", "Error"], file: null, line: null };
}
