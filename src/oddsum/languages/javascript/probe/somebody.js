/* A live run: somebody sits before the terminal. What is typed and what is printed are told, apart.

   The terminal is read through a descriptor of our own that never waits: a program that waits for an
   answer can be left then, and its timers go on. */
"use strict";

const fs = native("fs");
const { Buffer } = native("buffer");
const { StringDecoder } = native("string_decoder");
const { writeWhole } = ours("wire");

const { readSync, openSync, constants } = fs;
const PAUSE = 15; // milliseconds between two looks at whether something was typed
const PIECE = 4096; // bytes: a terminal gives a line at a time

class Somebody {
  #channel;
  #terminal = openSync("/dev/tty", constants.O_RDONLY | constants.O_NONBLOCK | constants.O_NOCTTY);
  #decoder = new StringDecoder("utf8");
  #there = null; // what was typed and is not taken yet
  #over = false;
  #later = outside.setTimeout;
  isTerminal = true;

  constructor(channel) {
    this.#channel = channel;
    hear(channel);
  }

  /** What stands there before anything is asked: nothing. */
  ready() {
    return "";
  }

  /** What is typed next, waiting for it; null at the end. */
  more() {
    const still = new Int32Array(new SharedArrayBuffer(4));
    while (!this.#look()) Atomics.wait(still, 0, 0, PAUSE);
    const text = this.#there;
    this.#there = null;
    return text;
  }

  /** Do something once `more` need not wait, or nobody wants it any more. */
  soon(then, wanted) {
    if (!wanted() || this.#look()) then(wanted());
    else this.#later.call(outside, () => this.soon(then, wanted), PAUSE);
  }

  /** Whether something was typed, or the end was. */
  #look() {
    if (this.#there !== null || this.#over) return true;
    const piece = Buffer.alloc(PIECE);
    let count = 0;
    try {
      count = readSync(this.#terminal, piece, 0, PIECE, null);
    } catch (error) {
      if (error.code === "EAGAIN") return false;
    }
    this.#over = count === 0;
    if (this.#over) return true;
    const data = piece.subarray(0, count);
    this.#channel.tell("typed", { data: data.toString("latin1") });
    this.#there = this.#decoder.write(data);
    return true;
  }

  /** Print a prompt. */
  show(prompt) {
    this.print(prompt);
  }

  print(text) {
    this.#channel.tell("printed", { data: Buffer.from(text, "utf8").toString("latin1") });
    writeWhole(1, text);
  }
}

/** Have told what the program prints; without colours, for a case has none. */
function hear(channel) {
  const { stdout } = outside.process;
  const { write } = stdout;
  const { writeSync } = fs;
  const told = (bytes) => channel.tell("printed", { data: bytes.toString("latin1") });
  stdout.write = function (data, encoding, ...rest) {
    told(typeof data === "string" ? Buffer.from(data, typeof encoding === "string" ? encoding : "utf8") : Buffer.from(data));
    return write.call(this, data, encoding, ...rest);
  };
  fs.writeSync = function (descriptor, data, ...rest) {
    const count = writeSync.call(this, descriptor, data, ...rest);
    if (descriptor === 1) told(typeof data === "string" ? Buffer.from(data) : Buffer.from(data).subarray(0, count));
    return count;
  };
  stdout.getColorDepth = () => 1;
  stdout.hasColors = () => false;
}

Object.assign(exported, { Somebody });
