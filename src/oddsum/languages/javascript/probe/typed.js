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

class Typed {
  #text;
  #channel;
  #ink; // what notes that something was read or printed, where the run is recorded
  starved = false;

  constructor(channel, ink) {
    this.#channel = channel;
    this.#ink = ink;
    try {
      this.#text = readFileSync(0, "utf8");
    } catch {
      this.#text = "";
    }
  }

  get left() {
    return this.#text;
  }

  /** The next line without its end; null where there is none. */
  line() {
    if (!this.#text) return null;
    const end = this.#text.indexOf("\n");
    const line = end < 0 ? this.#text : this.#text.slice(0, end);
    this.#text = end < 0 ? "" : this.#text.slice(end + 1);
    return line.endsWith("\r") ? line.slice(0, -1) : line;
  }

  /** All that is left. */
  rest() {
    const text = this.#text;
    this.#text = "";
    if (text) this.#ink.read(text);
    return text;
  }

  /** So many bytes of what is left, at most. */
  some(most) {
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
    const mark = `\0${this.#channel.mark}`;
    this.#ink.printed(prompt);
    writeWhole(1, `${mark}<${prompt}${mark}>`);
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
  const later = outside.setImmediate;
  const free = () => [...open].some((one) => one.listenerCount("line")) || !open.size;
  const stream = new Readable({
    read() {
      wanted = true;
      later(push);
    },
  });
  function push() {
    if (!wanted || over) return;
    const asked = questions.size > 0;
    if (!asked && !free()) return;
    const line = typed.line();
    if (line === null) {
      if (asked) typed.starved = true;
      else stream.finish();
      return;
    }
    wanted = false;
    if (asked) questions.delete(questions.values().next().value);
    typed.given(line, asked);
    stream.push(typed.left || line ? `${line}\n` : line);
  }
  stream.finish = () => {
    if (over) return;
    over = true;
    stream.push(null);
  };
  stream.wake = () => later(push);
  Object.assign(stream, { fd: 0, isTTY: undefined });
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

Object.assign(exported, { Typed, install });
