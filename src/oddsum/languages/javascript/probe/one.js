/* One case in a process of its own: plain, live, recorded, or watched for what does not end. */
"use strict";

const path = native("path");
const vm = native("vm");
const { inspect } = native("util");
const v8 = native("v8");

const lots = ours("lots");
const { Piped, Typed, install: typedIn } = ours("typed");
const { install: browser, InputEnded } = ours("browser");
const { Program } = ours("program");
const values = ours("values");
const { writeWhole } = ours("wire");
const { secondsUsed } = ours("clock");

const CANNOT_START = 65;
const MOST_UNREAD = 10_000;

const NO_INK = { printed() {}, read() {}, error() {}, end() {} };

/** Carry out the request; the answer is sent when node's own event loop has come to its end. */
exported.run = function run(request, channel) {
  const one = new One(request, channel);
  one.begin();
};

class One {
  #request;
  #channel;
  #program;
  #typed;
  #ink = NO_INK;
  #error = null;
  #told = {};
  #heard = null;
  #sent = false;
  #waits = [];
  #before = 0; // seconds of the processor that node took to begin

  constructor(request, channel) {
    this.#request = request;
    this.#channel = channel;
    this.#program = new Program(request);
  }

  begin() {
    const { process } = outside;
    const request = this.#request;
    if (request.limits.memory) v8.setFlagsFromString(`--max-old-space-size=${Math.ceil(request.limits.memory)}`);
    process.chdir(request.folder);
    process.argv.splice(1, Infinity, this.#program.path, ...(request.case.args || []));
    lots.install(request.case);
    if (request.weave) this.#ink = ours(request.weave.how).ink(request, this.#channel, this.#program);
    const side = request.mode === "live" ? new (ours("somebody").Somebody)(this.#channel) : new Piped(this.#channel);
    this.#typed = new Typed(this.#channel, this.#ink, side);
    typedIn(this.#typed);
    browser(this.#typed);
    this.#listen();
    if (request.case.check !== null && request.case.check !== undefined) this.#overhear();
    this.#before = secondsUsed();
    this.#channel.send("begun", { cpu: this.#before });
    this.#go().catch((error) => this.#failed(error));
  }

  /** Hear how it ends: node says so last of all, after the program's own words for the end. */
  #listen() {
    const { process } = outside;
    const emit = process.emit;
    const one = this;
    process.emit = function (name, ...told) {
      const answer = emit.call(this, name, ...told);
      if (name === "exit") one.#report();
      return answer;
    };
    process.on("uncaughtException", (error) => {
      if (process.listenerCount("uncaughtException") === 1) this.#failed(error);
    });
    if (this.#ink.output) this.#ink.output(process);
    process.on("SIGPROF", () => {
      // Its time is over, and it only waits: a program that computes never hears of this.
      this.#waits = waitingFor(process.getActiveResourcesInfo());
      this.#report();
      process.reallyExit(1);
    });
  }

  #overhear() {
    const { stdout } = outside.process;
    const { write } = stdout;
    const heard = (this.#heard = []);
    stdout.write = function (data, ...rest) {
      heard.push(String(data));
      return write.call(this, data, ...rest);
    };
  }

  async #go() {
    const { case: asked } = this.#request;
    if (asked.call === null || asked.call === undefined) {
      const waits = this.#program.run();
      if (waits) await waits;
      if (asked.check) await this.#atEnd(() => this.#check(undefined));
      return;
    }
    const waits = this.#program.load();
    if (waits) await waits;
    const within = this.#program.within;
    let expected = null;
    if (asked.before) this.#part("before", () => within(asked.before));
    if (asked.returns) expected = this.#part("returns", () => wanted(asked.returns, within));
    writeWhole(1, `\0${this.#channel.mark}!`);
    if (this.#heard) this.#heard.length = 0;
    this.#ink.fresh?.();
    let gave = this.#part("call", () => within(`(${asked.call}\n)`));
    if (native("util").types.isPromise(gave)) gave = await gave;
    this.#returned(gave, expected);
    if (asked.check) this.#check(gave);
  }

  /** Once nothing else is under way, do one thing more. */
  #atEnd(what) {
    return new Promise((done) => {
      outside.process.once("beforeExit", () => {
        what();
        done();
      });
    });
  }

  /** Work out a part of the case's own text: an error in it is told as that. */
  #part(part, what) {
    try {
      return what();
    } catch (error) {
      if (this.#placeOf(error).file === null) this.#told.part = part;
      throw error;
    }
  }

  #returned(gave, expected) {
    const returned = { actual: values.textOf(gave), type: values.typeOf(gave) };
    if (expected !== null) {
      returned.expected = values.textOf(expected.value);
      returned.expected_type = values.typeOf(expected.value);
      returned.own_names = expected.own;
      returned.equal = values.same(expected.value, gave, this.#request.case.tolerance);
    }
    this.#told.returned = returned;
  }

  #check(result) {
    outside.result = result;
    outside.stdout = (this.#heard || []).join("");
    const { check, before } = this.#request.case;
    try {
      const work = this.#program.within || ((text) => vm.runInThisContext(text));
      this.#told.checked = Boolean(work(`(${check}\n)`));
    } catch (error) {
      this.#told.checked = false;
      this.#told.check_error = `${error?.name ?? "Error"}: ${error?.message ?? error}`;
    }
    delete outside.result;
    delete outside.stdout;
  }

  /** An error that nobody caught: the program ends by it. */
  #failed(error) {
    if (this.#error !== null) return;
    const cannot = this.#cannotStart(error);
    if (cannot !== null) {
      this.#sent = true;
      this.#channel.send("syntax", cannot);
      outside.process.reallyExit(CANNOT_START);
    }
    const place = this.#placeOf(error);
    this.#error = {
      ...kindOf(error),
      ...place,
      part: this.#told.part || "",
      values: [],
    };
    if (error instanceof InputEnded) this.#typed.starved = true;
    this.#ink.error(this.#error, error);
    try {
      writeWhole(2, `${inspect(error).replace(OURS, "")}\n`);
    } catch {
      // Nobody reads it any more.
    }
    outside.process.exit(1);
  }

  /** What is told of a text that is no program: node says the place ahead of the error itself. */
  #cannotStart(error) {
    if (!error || error.name !== "SyntaxError" || typeof error.stack !== "string") return null;
    const told = /^(?:file:\/\/)?(\/.+?):(\d+)\n(.*)\n(?:( *)\^+)?/.exec(error.stack);
    if (told === null) return this.#missingName(error);
    const [, file, line, text, blanks] = told;
    if (!this.#program.isOwn(file)) return null;
    return {
      message: error.message, file: this.#program.nameOf(file), line: Number(line),
      column: blanks === undefined ? null : blanks.length + 1, text,
    };
  }

  /** A module that does not give what another one imports: node names it without a place. */
  #missingName(error) {
    if (!/does not provide an export|Cannot use import/.test(error.message)) return null;
    return { message: error.message, file: this.#request.program, line: null, column: null, text: null };
  }

  /** The innermost line of the learner's own files. */
  #placeOf(error) {
    const stack = error && typeof error.stack === "string" ? error.stack : "";
    for (const told of stack.matchAll(/(?:\(|at (?:async )?)(?:file:\/\/)?(\/[^()\n]*?):(\d+):\d+\)?$/gm)) {
      if (this.#program.isOwn(told[1])) {
        return { file: this.#program.nameOf(told[1]), line: Number(told[2]) };
      }
    }
    return { file: null, line: null };
  }

  #report() {
    if (this.#sent) return;
    this.#sent = true;
    this.#ink.end();
    if (this.#typed.starved && this.#error === null) {
      this.#error = {
        type: "InputEnded", message: "there is no more input", file: null, line: null,
        bases: ["InputEnded", "Error"], part: "", values: [],
      };
    }
    this.#channel.send("end", {
      status: Number(outside.process.exitCode ?? 0) & 255,
      error: this.#error,
      returned: this.#told.returned ?? null,
      checked: this.#told.checked ?? null,
      check_error: this.#told.check_error ?? "",
      starved: this.#typed.starved && this.#error?.type === "InputEnded",
      unread: this.#typed.left.slice(0, MOST_UNREAD),
      remarks: this.#waits,
      cpu: secondsUsed() - this.#before,
      skipped: this.#request.skipped || [],
    });
  }
}

// Lines of an error's path through the probe: they say nothing of the program.
const OURS = /\n    at [^\n]*\/javascript\/probe\/[a-z]+\.js:\d+[^\n]*/g;

const WAITING = {
  Timeout: "a timer that goes on (setInterval, or a setTimeout that starts itself again)",
  Immediate: "a setImmediate that starts itself again",
  TCPServerWrap: "a server that listens",
  TCPSocketWrap: "a connection that is open",
  ChildProcess: "another program that it started",
  FSEventWrap: "a change of a file",
  FSReqPromise: "a file",
};

/** What a program waits for that does nothing any more, in a sentence each. */
function waitingFor(resources) {
  const told = [...new Set(resources.map((name) => WAITING[name]).filter(Boolean))];
  return told.length ? [`When its time was over it was waiting for ${told.join(", and for ")}.`] : [];
}

/** What is expected, worked out apart from the program; names only it knows are taken, and told. */
function wanted(text, within) {
  try {
    return { value: vm.runInThisContext(`(${text}\n)`), own: [] };
  } catch (error) {
    if (!(error instanceof outside.ReferenceError)) throw error;
    const name = /^(\S+) is not defined/.exec(error.message);
    return { value: within(`(${text}\n)`), own: name ? [name[1]] : [] };
  }
}

/** An error's name, its words, and the names of its ancestors. */
function kindOf(error) {
  if (!(error instanceof outside.Error) && !native("util").types.isNativeError(error)) {
    return { type: "thrown", message: values.textOf(error).slice(0, 2000), bases: ["thrown"] };
  }
  const bases = [];
  for (let kind = Object.getPrototypeOf(error); kind && Object.getPrototypeOf(kind); kind = Object.getPrototypeOf(kind)) {
    const name = kind.constructor?.name;
    if (name && !bases.includes(name)) bases.push(name);
  }
  const name = String(error.name || bases[0] || "Error");
  return { type: name, message: String(error.message).slice(0, 2000), bases: [...new Set([name, ...bases])] };
}
