/* What stands in a trial's world for what node gives: input and output, timers, a few modules.

   Nothing here waits, and nothing reaches out: what a program wants of the machine is not there.
*/
"use strict";

const path = native("path");
const util = native("util");
const events = native("events");
const { Buffer } = native("buffer");
const fs = native("fs");

const PURE = new Set(["path", "util", "events", "assert", "assert/strict", "url", "querystring", "string_decoder", "os"]);
const YES = new Set(["", "y", "yes", "ok", "true", "1"]);
const LEFT = { left: true };

const { URL, URLSearchParams, TextEncoder, TextDecoder } = outside;
const AS_EVER = { Buffer, URL, URLSearchParams, TextEncoder, TextDecoder };

/** A function that makes something the first time, and gives that. */
function once(make) {
  let made = null;
  return () => (made ??= make());
}

exported.stands = function stands({ typed, args, program, print, folder }) {
  let left = typed;
  let starved = false;
  let status = 0;
  let now = 0;
  let following = 0;
  let own = null;
  let soon = null; // what is to be done by the world's own queue, for ours is not looked at meanwhile
  let bytes = 0;
  let madeProcess = null; // most programs do without: making it takes longer than they do
  const timers = [];
  const asked = [];
  const refused = [];
  const faces = new Set();
  const exits = [];

  function printed(text) {
    print(text);
    bytes += Buffer.byteLength(String(text));
  }

  function line() {
    if (!left) return null;
    const end = left.indexOf("\n");
    const found = end < 0 ? left : left.slice(0, end);
    left = end < 0 ? "" : left.slice(end + 1);
    return found.endsWith("\r") ? found.slice(0, -1) : found;
  }

  function answer(prompt) {
    const start = bytes;
    printed(prompt);
    const found = line();
    if (found === null) starved = true;
    else asked.push([start, bytes, found]);
    return found;
  }

  function ask(prompt) {
    const found = answer(String(prompt));
    if (found !== null) return found;
    const error = new (kind("Error"))("there is no more input");
    error.name = "InputEnded";
    throw error;
  }

  const kind = (name) => own[name]; // the world's, which its own values are of

  function later(work, delay = 0, again = null) {
    following += 1;
    timers.push({ at: now + Math.max(1, Number(delay) || 1), order: following, work, again, id: following });
    return { id: following, ref() {}, unref() {}, hasRef: () => true, [Symbol.toPrimitive]() { return this.id; } };
  }

  function clear(timer) {
    const id = timer && typeof timer === "object" ? timer.id : timer;
    const at = timers.findIndex((one) => one.id === id);
    if (at >= 0) timers.splice(at, 1);
  }

  // -- readline ----------------------------------------------------------------------------------

  const faceClass = once(() => class Face extends events.EventEmitter {
    #prompt = "> ";
    #waiting = [];
    #promises;
    closed = false;

    constructor(promises) {
      super();
      this.#promises = promises;
      faces.add(this);
    }

    setPrompt(text) {
      this.#prompt = text;
    }

    getPrompt() {
      return this.#prompt;
    }

    prompt() {
      this.#waiting.push({ prompt: this.#prompt, done: null, start: this.#begin(this.#prompt) });
    }

    #begin(text) {
      const start = bytes;
      printed(text);
      return [start, bytes];
    }

    question(text, options, done) {
      const told = typeof options === "function" ? options : done;
      if (!this.#promises) {
        this.#waiting.push({ done: told, start: this.#begin(text) });
        return undefined;
      }
      const Promised = kind("Promise");
      return new Promised((resolve) => this.#waiting.push({ done: resolve, start: this.#begin(text) }));
    }

    get wants() {
      return !this.closed && (this.#waiting.length > 0 || this.listenerCount("line") > 0);
    }

    get asks() {
      return !this.closed && this.#waiting.length > 0;
    }

    /** Give it the next line; false where there is none. */
    take() {
      const waiting = this.#waiting.shift();
      const found = line();
      if (found === null) {
        if (waiting) starved = true;
        this.close();
        return;
      }
      if (waiting) asked.push([...waiting.start, found]);
      if (waiting && waiting.done) waiting.done(found);
      else this.emit("line", found);
    }

    pause() {
      return this;
    }

    resume() {
      return this;
    }

    write() {}

    close() {
      if (this.closed) return;
      this.closed = true;
      faces.delete(this);
      this.emit("close");
    }

    [Symbol.asyncIterator]() {
      const face = this;
      return {
        next: () => soon(() => {
          const found = line();
          if (found !== null) return { value: found, done: false };
          face.close();
          return { value: undefined, done: true };
        }),
        return: () => Promised.resolve({ value: undefined, done: true }),
        [Symbol.asyncIterator]() {
          return this;
        },
      };
    }
  });

  function readline(promises) {
    const Face = faceClass();
    return {
      createInterface: () => new Face(promises),
      Interface: Face,
      clearLine() {},
      cursorTo() {},
      ...(promises ? {} : { promises: { createInterface: () => new Face(true), Interface: Face } }),
    };
  }

  // -- streams, process, files -------------------------------------------------------------------------

  const stdinOf = () => new (class Stdin extends events.EventEmitter {
    fd = 0;
    setEncoding() {
      return this;
    }

    resume() {
      return this;
    }

    pause() {
      return this;
    }

    on(name, work) {
      super.on(name, work);
      if (name === "data" || name === "readable") later(() => this.#flow());
      return this;
    }

    #flow() {
      const text = left;
      left = "";
      this.#text = text;
      if (text) this.emit("data", text);
      this.emit("readable");
      this.emit("end");
      this.emit("close");
    }

    #text = "";

    read() {
      const text = this.#text;
      this.#text = "";
      return text || null;
    }

    [Symbol.asyncIterator]() {
      return {
        next: () => soon(() => {
          if (!left) return { value: undefined, done: true };
          const value = left;
          left = "";
          return { value, done: false };
        }),
      };
    }
  })();

  const process = () => (madeProcess ??= Object.assign(new (class Process extends events.EventEmitter {})(), {
    argv: ["node", program, ...args],
    env: {},
    platform: "linux",
    version: outside.process.version,
    versions: outside.process.versions,
    pid: 1,
    stdin: stdinOf(),
    stdout: {
      isTTY: undefined,
      columns: undefined,
      fd: 1,
      write(text, encoding, done) {
        printed(typeof text === "string" ? text : Buffer.from(text).toString("utf8"));
        const told = typeof encoding === "function" ? encoding : done;
        if (told) later(told);
        return true;
      },
      on() {
        return this;
      },
      once() {
        return this;
      },
      end() {},
    },
    stderr: { write: () => true, on() {}, once() {} },
    cwd: () => folder,
    uptime: () => now / 1000,
    memoryUsage: () => ({ heapUsed: 0, rss: 0, heapTotal: 0, external: 0 }),
    hrtime: Object.assign(() => [0, now * 1e6], { bigint: () => BigInt(now) * 1000000n }),
    nextTick: (work, ...given) => void soon(() => work(...given)),
    exit(code) {
      status = Number(code ?? madeProcess.exitCode ?? 0);
      throw LEFT;
    },
    exitCode: undefined,
  }));

  const refusing = (name) => () => {
    refused.push(name);
    throw new (kind("Error"))(`${name} is not to be had in a trial`);
  };
  const files = {
    readFileSync(file, options) {
      const encoding = typeof options === "string" ? options : options && options.encoding;
      if (file === 0 || file === "/dev/stdin") {
        const text = left;
        left = "";
        return encoding ? text : Buffer.from(text, "utf8");
      }
      return fs.readFileSync(path.resolve(folder, String(file)), options);
    },
    existsSync: (file) => fs.existsSync(path.resolve(folder, String(file))),
    readdirSync: (file, options) => fs.readdirSync(path.resolve(folder, String(file)), options),
    statSync: (file) => fs.statSync(path.resolve(folder, String(file))),
    writeFileSync: refusing("writing files"),
    appendFileSync: refusing("writing files"),
  };
  const modules = {
    fs: once(() => files),
    process,
    readline: once(() => readline(false)),
    "readline/promises": once(() => readline(true)),
    "timers/promises": once(() => ({
      setTimeout: (delay, value) => new (kind("Promise"))((done) => later(() => done(value), delay)),
    })),
    perf_hooks: once(() => ({ performance: { now: () => now } })),
  };

  const globals = {
    ...AS_EVER,
    setTimeout: (work, delay, ...given) => later(() => work(...given), delay),
    setInterval: (work, delay, ...given) => later(() => work(...given), delay, Math.max(1, Number(delay) || 1)),
    setImmediate: (work, ...given) => later(() => work(...given), 0),
    clearTimeout: clear, clearInterval: clear, clearImmediate: clear,
    queueMicrotask: (work) => void soon(work),
    structuredClone: (value) => JSON.parse(JSON.stringify(value)),
    performance: { now: () => now },
    prompt: (message = "", fallback = "") => ask(message) || String(fallback),
    alert: (message = "") => printed(`${message}\n`),
    confirm: (message = "") => YES.has(ask(message).trim().toLowerCase()),
    document: {
      write: (...texts) => printed(ours("browser").plain(texts.join(""))),
      writeln: (...texts) => printed(`${ours("browser").plain(texts.join(""))}\n`),
    },
  };

  return {
    globals,
    process,
    left: LEFT,
    settle(world) {
      ({ own, soon } = world);
    },
    module(name) {
      const bare = name.replace(/^node:/, "");
      if (Object.hasOwn(modules, bare)) return modules[bare]();
      if (PURE.has(bare)) return native(bare);
      return refusing(`the module ${bare}`)();
    },
    waits: () => timers.length > 0 || [...faces].some((face) => face.wants || !face.closed),
    /** Do what comes next: a line for who asks, else the timer that is due first, else the end. */
    next() {
      const asking = [...faces].find((face) => face.asks) ?? (timers.length ? null : [...faces].find((face) => face.wants));
      if (asking) {
        asking.take();
        return;
      }
      if (!timers.length) {
        for (const face of [...faces]) face.close();
        return;
      }
      timers.sort((a, b) => a.at - b.at || a.order - b.order);
      const one = timers.shift();
      now = Math.max(now, one.at);
      if (one.again !== null) timers.push({ ...one, at: now + one.again, order: (following += 1) });
      one.work();
    },
    rejected: () => null,
    starved: () => starved,
    status: () => (status || Number(madeProcess?.exitCode ?? 0)) & 255,
    unread: () => left,
    asked: () => asked,
    forget() {
      asked.length = 0;
      bytes = 0;
    },
    refused: () => refused,
    exits,
    util,
  };
};
