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

const lots = ours("lots");
const values = ours("values");
const { stands } = ours("stands");

const MOST_TIMERS = 10_000;
const DO = new vm.Script("ǂdo()");
const SETTLING = new vm.Script(`
  globalThis.global = globalThis;
  ({ global: globalThis, own: { Promise, Error }, soon: (work) => Promise.resolve().then(() => work()) })
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
    else {
      channel.send("built", { id: asked.id });
      channel.send("tried", { id: asked.id, case: asked.case, ...trials.tried(asked) });
    }
  }
  outside.process.reallyExit(0);
};

class Trials {
  #request;
  #cases;
  #edits = [];
  #made = { scripts: {}, calls: {}, plain: {}, apart: [], spans: {}, modern: [] };
  #apart = new Set();
  #idle = new Set(); // edits of what no call needs
  #compiled = new Map();
  #known = new Map();
  #switches = [];
  #ticks = 0;
  #world = null;

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
    this.#switches = new Array(asked.edits.length).fill(0);
    for (const one of asked.cases) this.#cases.set(one.number, one);
  }

  /** Run trials until their time is over; returns the fields of `tried`. */
  tried(asked) {
    const known = this.#knownOf(asked.case);
    const told = [];
    const outcomes = [];
    const until = Date.now() + 1000 * asked.spend;
    for (const numbers of asked.numbers) {
      const alone = numbers.some((n) => this.#apart.has(n)) || !this.#areSeparate(numbers);
      if (alone && numbers.length > 1 && !asked.apart) {
        outcomes.push(-1);
        continue;
      }
      const did = this.#did(this.#cases.get(asked.case), numbers, alone, asked);
      const key = JSON.stringify(did);
      if (!known.has(key)) {
        known.set(key, known.size);
        told.push(did);
      }
      outcomes.push(known.get(key));
      if (Date.now() > until) break;
    }
    return { outcomes, new: told, dirty: false, spoilt: false, refused: [], ticks: this.#ticks };
  }

  /** A world to run in: the one before, where the program can have left nothing in it. */
  #worldFor() {
    if (this.#world === null || !this.#made.clean) this.#world = new World();
    return this.#world;
  }

  #knownOf(number) {
    if (!this.#known.has(number)) this.#known.set(number, new Map());
    return this.#known.get(number);
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
    const run = new Run(this.#request, one, asked, this.#switches, alone, world, (name, calls) =>
      this.#script(name, calls, alone ? numbers : []));
    try {
      return run.told();
    } finally {
      if (!world.isAsItWas()) this.#world = null;
      this.#switches.fill(0);
      this.#ticks = run.ticks;
    }
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
    const hook = name === this.#request.program ? "\n;ǂwith((ǂtext) => eval(ǂtext));" : "";
    const made = new vm.Script(
      `(function (exports, require, module, __filename, __dirname) {${text}${hook}\n})`,
      { filename: path.join(this.#request.folder, name) },
    );
    if (numbers.length) return made;
    this.#compiled.set(key, made);
    return made;
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

  constructor() {
    this.context = vm.createContext({}, { microtaskMode: "afterEvaluate" });
    const { global, own, soon } = SETTLING.runInContext(this.context);
    Object.assign(this, { global, own, soon });
  }

  /** Whether no run has left a name in it. */
  isAsItWas() {
    const count = Reflect.ownKeys(this.global).length;
    this.#names ??= count;
    return count === this.#names;
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
  #modules = new Map();
  #stands;
  #returned = null;
  #checked = null;
  #checkError = "";
  ticks = 0;

  constructor(request, one, asked, switches, alone, world, script) {
    // A clock to stop it costs as much as a small run: only what has no counters in it has one.
    this.#limit = alone ? { timeout: Math.max(1, Math.ceil(1000 * asked.seconds)) } : undefined;
    this.#request = request;
    this.#case = one;
    this.#asked = asked;
    this.#script = script;
    this.#left = asked.rounds;
    this.#stands = stands({
      typed: one.stdin || "",
      args: one.args || [],
      program: path.join(request.folder, request.program),
      print: (text) => this.#print(text),
      own: (name, from) => this.#require(name, from),
      folder: request.folder,
    });
    const sink = { write: (text) => this.#print(text) };
    const silent = { write() {} };
    this.#world = world.context;
    Object.assign(this.#world, this.#stands.globals, {
      console: new Console({ stdout: sink, stderr: silent, ignoreErrors: false }),
      ǂs: switches,
      ǂt: () => this.#tick(),
      ǂwith: (within) => (this.#within = within),
    });
    this.#stands.settle(world);
    lots.installIn(world.global, one.seed);
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
    made.call(module.exports, module.exports, require, module, file, path.dirname(file));
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
