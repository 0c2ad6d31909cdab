/* The probe's end of the wire: lines of json, each begun with a random text made for this run. */
"use strict";

const { writeSync } = native("fs");
const { stringify } = JSON;
const { Buffer } = native("buffer");
const bytesOf = Buffer.from;

exported.VERSION = 1;

class Channel {
  #descriptor;
  #nonce = "";
  #aside = "";
  mark = "";

  constructor(descriptor) {
    this.#descriptor = descriptor;
  }

  take(request) {
    this.#nonce = request.nonce;
    this.#aside = request.aside;
    this.mark = request.mark;
  }

  send(kind, fields) {
    this.#line(this.#nonce, stringify({ ...fields, k: kind }));
  }

  /** What a program does on its way: anybody can say that it read something. */
  tell(kind, fields) {
    this.#line(this.#aside, stringify({ ...fields, k: kind }));
  }

  /** A recording's events, as text of json. */
  log(text) {
    this.#line(`${this.#nonce}=`, text);
  }

  #line(start, text) {
    writeWhole(this.#descriptor, `${start}${text}\n`);
  }
}

/** Write all of it, however little is taken at a time. */
function writeWhole(descriptor, text) {
  let data = typeof text === "string" ? bytesOf(text, "utf8") : text;
  while (data.length) {
    try {
      data = data.subarray(writeSync(descriptor, data));
    } catch (error) {
      if (error.code !== "EAGAIN") throw error;
    }
  }
}

exported.Channel = Channel;
exported.writeWhole = writeWhole;
