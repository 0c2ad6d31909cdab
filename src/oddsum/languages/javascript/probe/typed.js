/* What is typed in: one store of lines, whatever the program reads it with.

   A program may ask with `prompt`, read the stream `process.stdin`, have `readline` ask or hear
   lines, or read the descriptor whole: each takes from the same store, so that what is left is known. A line is
   given to `readline` when it asks, as on a terminal, where nobody types ahead: through a pipe a
   program that awaits its questions would lose what came meanwhile.
*/
"use strict";

const fs = native("fs");
const { Readable } = native("stream");
const readline = native("readline");
const { Buffer } = native("buffer");
const { writeWhole } = ours("wire");

const { readFileSync } = fs;
const STDIN = new Set([0, "/dev/stdin", "/proc/self/fd/0"]);

/** What was typed in ahead, in a pipe or a file; where a prompt stands is marked in the output. */
class Piped {
  #channel;
  isTerminal = undefined;

  constructor(channel) {
    this.#channel = channel;
  }

  ready() {
    try {
      return readFileSync(0, "utf8");
    } catch {
      return "";
    }
  }

  more() {
    return null; // all was there to begin with
  }

  soon(then) {
    then(true);
  }

  show(prompt) {
    const mark = `\0${this.#channel.mark}`;
    writeWhole(1, `${mark}<${prompt}${mark}>`);
  }

  print(text) {
    writeWhole(1, text);
  }
}

class Typed {
  #text;
  #channel;
  #ink; // what notes that something was read or printed, where the run is recorded
  #side; // where it comes from: `Piped`, or `Somebody`
  starved = false;

  constructor(channel, ink, side) {
    this.#channel = channel;
    this.#ink = ink;
    this.#side = side;
    this.#text = side.ready();
  }

  /** What is there and was not read. */
  get left() {
    return this.#text;
  }

  get isTerminal() {
    return this.#side.isTerminal;
  }

  /** Take what comes next, waiting for it; whether there was something. */
  #pull() {
    const more = this.#side.more();
    this.#text += more ?? "";
    return more !== null;
  }

  /** Do something once the next line can be had, with whether it can: as long as it is `wanted`. */
  soon(then, wanted) {
    if (this.#text) then(true);
    else this.#side.soon(then, wanted);
  }

  /** The next line without its end; null where there is none. */
  line() {
    return this.whole()?.replace(/\r?\n$/, "") ?? null;
  }

  /** The next line with its end, if it has one; null where there is none. */
  whole() {
    while (!this.#text.includes("\n") && this.#pull());
    if (!this.#text) return null;
    const end = this.#text.indexOf("\n") + 1 || this.#text.length;
    const line = this.#text.slice(0, end);
    this.#text = this.#text.slice(end);
    return line;
  }

  /** All that is left. */
  rest() {
    while (this.#pull());
    const text = this.#text;
    this.#text = "";
    if (text) this.#ink.read(text);
    return text;
  }

  /** So many bytes of what is left, at most. */
  some(most) {
    if (!this.#text) this.#pull();
    const all = Buffer.from(this.#text, "utf8");
    const taken = all.subarray(0, most);
    this.#text = all.subarray(most).toString("utf8");
    if (taken.length) this.#ink.read(taken.toString("utf8"));
    return taken;
  }

  /** Print a prompt and read the line that answers it; null where there is none. */
  answer(prompt) {
    this.begin(prompt);
    const line = this.line();
    if (line === null) this.starved = true;
    else this.#read(line);
    return line;
  }

  /** Print a prompt, marked: where the run ends without an answer it was plain output. */
  begin(prompt) {
    this.#ink.printed(prompt);
    this.#side.show(prompt);
  }

  /** Print plain text. */
  print(text) {
    this.#ink.printed(text);
    this.#side.print(text);
  }

  #read(line) {
    this.#channel.tell("read", { text: line });
    this.#ink.read(line);
  }

  /** A line goes to a question that was asked, or to whoever listens. */
  given(line, asked) {
    if (asked) this.#read(line);
    else this.#ink.read(line);
  }
}

/** Have everything that reads standard input take from the store. */
function install(typed) {
  const questions = new Set(); // interfaces that wait for an answer
  const open = new Set(); // interfaces that read standard input
  const stream = streamOf(typed, questions, open);
  Object.defineProperty(outside.process, "stdin", { configurable: true, get: () => stream });
  readWhole(typed);
  askByLine(typed, stream, questions, open);
  outside.process.on("beforeExit", () => {
    // Nothing else is under way: what nobody asked for comes now, and then the end.
    if (open.size || stream.listenerCount("data") || stream.listenerCount("readable")) {
      if (questions.size && !typed.left) typed.starved = true;
      stream.finish();
    }
  });
}

/** `process.stdin`, with a line at a time. */
function streamOf(typed, questions, open) {
  let wanted = false;
  let over = false;
  let waits = false; // for somebody to type
  const later = outside.setImmediate;
  const free = () => [...open].some((one) => one.listenerCount("line")) || !open.size;
  const stream = new Readable({
    read() {
      wanted = true;
      later(push);
    },
  });
  function push() {
    if (!wanted || over || waits) return;
    if (!questions.size && !free()) return;
    waits = true;
    typed.soon(take, isHeard);
  }
  const isHeard = () => !stream.isPaused() && stream.listenerCount("data") + stream.listenerCount("readable") > 0;
  function take(there) {
    waits = false;
    if (over || !there) return;
    const asked = questions.size > 0;
    const line = typed.whole();
    if (line === null) {
      if (asked) typed.starved = true;
      else stream.finish();
      return;
    }
    wanted = false;
    if (asked) questions.delete(questions.values().next().value);
    typed.given(line.replace(/\r?\n$/, ""), asked);
    stream.push(line);
  }
  stream.finish = () => {
    if (over) return;
    over = true;
    stream.push(null);
  };
  stream.wake = () => later(push);
  stream.on("resume", stream.wake);
  Object.assign(stream, { fd: 0, isTTY: typed.isTerminal });
  return stream;
}

/** `fs.readFileSync(0)` and its kin. */
function readWhole(typed) {
  const { readFileSync: whole, readSync: some, readFile: slowly } = fs;
  fs.readFileSync = function (file, options) {
    if (!STDIN.has(file)) return whole.apply(this, arguments);
    const text = typed.rest();
    const encoding = typeof options === "string" ? options : options && options.encoding;
    const data = Buffer.from(text, "utf8");
    return encoding ? data.toString(encoding) : data;
  };
  fs.readFile = function (file, options, done) {
    if (!STDIN.has(file)) return slowly.apply(this, arguments);
    const told = typeof options === "function" ? options : done;
    const data = fs.readFileSync(file, typeof options === "function" ? undefined : options);
    outside.setImmediate(() => told(null, data));
    return undefined;
  };
  fs.readSync = function (file, buffer, offset, length) {
    if (file !== 0) return some.apply(this, arguments);
    const from = typeof offset === "object" && offset !== null ? offset.offset ?? 0 : offset ?? 0;
    const most = (typeof offset === "object" && offset !== null ? offset.length : length) ?? buffer.length - from;
    const taken = typed.some(most);
    Buffer.from(buffer.buffer, buffer.byteOffset, buffer.byteLength).set(taken, from);
    return taken.length;
  };
}

/** `readline`: a question is a prompt, and the next line is its answer. */
function askByLine(typed, stream, questions, open) {
  for (const Interface of [readline.Interface, readline.promises.Interface]) {
    const kind = Interface.prototype;
    const { prompt } = kind;
    const owner = findOwner(kind, "prompt");
    if (owner.oddly) continue;
    Object.defineProperty(owner, "oddly", { value: true });
    owner.prompt = function (...told) {
      if (this.input !== stream) return prompt.apply(this, told);
      if (this.paused) this.resume();
      typed.begin(this.getPrompt());
      questions.add(this);
      stream.wake();
      return undefined;
    };
  }
  const { createInterface } = readline;
  const watched = (made) =>
    function (...told) {
      if (told[0]?.input === stream) told[0] = { terminal: false, ...told[0] }; // lines, not keys
      const face = made.apply(this, told);
      if (face.input !== stream) return face;
      open.add(face);
      face.once("close", () => {
        open.delete(face);
        questions.delete(face);
      });
      for (const name of ["on", "addListener", "once"]) {
        const add = face[name];
        face[name] = function (event, ...rest) {
          const given = add.call(this, event, ...rest);
          if (event === "line") stream.wake();
          return given;
        };
      }
      return face;
    };
  readline.createInterface = watched(createInterface);
  readline.promises.createInterface = watched(readline.promises.createInterface);
}

function findOwner(kind, name) {
  let owner = kind;
  while (owner && !Object.hasOwn(owner, name)) owner = Object.getPrototypeOf(owner);
  return owner;
}

Object.assign(exported, { Piped, Typed, install });
