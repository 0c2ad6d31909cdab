/* A second look at a run that did not end, or stopped by an error: which lines it goes round in, and
   what the variables are there. The same calls as for a recording (`weave.py`) keep no more than the
   last of everything here.
*/
"use strict";

const { textOf } = ours("values");
const { secondsUsed } = ours("clock");

const LOOK_EVERY = 512; // visits between two looks at the clock
const WATCHED = 0.25; // seconds that it is watched once its time is over
const KEPT = 3; // visits of a line whose variables are told
const MOST_NAMES = 40;
const TEXT = 200; // characters of a value
const LOOPING = 71; // the status of a run that was ended in its loop

exported.ink = function ink(request, channel, program) {
  return new Watch(request, channel, program);
};

class Watch {
  #request;
  #channel;
  #program;
  #statements;
  #slots;
  #frames;
  #count = 0;
  #watching = false;
  #ends = 0;
  #raised = null;

  constructor(request, channel, program) {
    this.#request = request;
    this.#channel = channel;
    this.#program = program;
    this.#statements = request.weave.statements;
    this.#slots = request.weave.slots;
    this.#frames = [frameOf(-1, "")];
    this.#ends = secondsUsed() + request.limits.cpu;
    Object.defineProperty(outside, "ǂ", { value: this.#hooks(), configurable: true });
  }

  printed() {}

  read() {}

  end() {}

  /** The variables where it was raised. */
  error(told, error) {
    const known = this.#raised !== null && Object.is(this.#raised.error, error);
    const frame = this.#frames.at(-1);
    const { values, at } = known ? this.#raised : { values: this.#values(frame), at: frame.at };
    told.values = values;
    if (told.line === null && at >= 0) {
      const [file, line] = this.#statements[at];
      Object.assign(told, { file, line });
    }
  }

  #hooks() {
    const watch = this;
    const visit = (statement) => watch.#visit(statement);
    const rounds = (statement, over) => over;
    return {
      v: visit,
      w: visit,
      c: (value) => value,
      b(slot, value) {
        watch.#bind(slot, value);
        return value;
      },
      p: (value) => value,
      of: rounds,
      slow: rounds,
      keys: (statement, over) => keysOf(over),
      call(statement) {
        const frame = frameOf(statement, watch.#statements[statement][3]);
        watch.#frames.push(frame);
        watch.#visit(statement);
        return frame;
      },
      r: (value) => value,
      x(frame, error) {
        watch.#enter(frame);
        watch.#raise(error);
        return error;
      },
      l: (frame) => watch.#leave(frame),
      h(...error) {
        if (error.length) watch.#raise(error[0]);
        watch.#raised = null;
      },
      leave(frame, value) {
        watch.#leave(frame);
        return value;
      },
      gives(frame, value) {
        watch.#leave(frame);
        return value;
      },
      back(frame, value) {
        watch.#enter(frame);
        return value;
      },
      through: (frame, over) => over,
      again: (frame) => watch.#enter(frame),
      done() {},
      see() {}, // whose names are told is a matter for a recording
      top: (statement, value) => value,
    };
  }

  /** A call goes on, after it waited. */
  #enter(frame) {
    if (!this.#frames.includes(frame)) this.#frames.push(frame);
  }

  /** A call is over, or waits. */
  #leave(frame) {
    const at = this.#frames.lastIndexOf(frame);
    if (at > 0) this.#frames.splice(at, 1);
  }

  #raise(error) {
    if (this.#raised !== null && Object.is(this.#raised.error, error)) return;
    const frame = this.#frames.at(-1);
    this.#raised = { error, values: this.#values(frame), at: frame.at };
  }

  #visit(statement) {
    const frame = this.#frames.at(-1);
    frame.at = statement;
    if (this.#watching) {
      const line = this.#statements[statement][1];
      frame.lines.add(line);
      frame.seen += 1;
      let visits = frame.visits.get(line);
      if (visits === undefined) frame.visits.set(line, (visits = []));
      visits.push(this.#values(frame));
      if (visits.length > KEPT) visits.shift();
    }
    this.#count += 1;
    if (this.#count % (this.#watching ? 16 : LOOK_EVERY) === 0) this.#lookAtTheClock();
  }

  #bind(slot, value) {
    const frame = this.#slots[slot][2] ? this.#frames[0] : this.#frames.at(-1);
    if (this.#watching && frame.names.has(slot) && !Object.is(frame.names.get(slot), value)) {
      frame.changed.add(this.#slots[slot][1]);
    }
    frame.names.set(slot, value);
  }

  #lookAtTheClock() {
    const seconds = secondsUsed();
    if (seconds < this.#ends) return;
    if (!this.#watching) {
      this.#watching = true;
      this.#ends = seconds + WATCHED;
      return;
    }
    this.#channel.tell("looping", { frames: this.#frames.filter((f) => f.seen).map((f) => this.#told(f)) });
    outside.process.reallyExit(LOOPING);
  }

  #told(frame) {
    const file = this.#statements[frame.at][0];
    const visits = [...frame.visits].map(([line, rows]) => [line, rows]);
    return [
      `${this.#program.folder}/${file}`, [...frame.lines], frame.seen, [...frame.changed], visits, frame.title,
      this.#statements[frame.at][1],
    ];
  }

  #values(frame) {
    const found = [];
    const own = frame === this.#frames[0] ? [frame] : [frame, this.#frames[0]];
    for (const { names } of own.slice(0, 1)) {
      for (const [slot, value] of names) {
        if (found.length >= MOST_NAMES) break;
        if (typeof value === "function") continue;
        const text = textOf(value, 3);
        found.push([this.#slots[slot][1], text.length > TEXT ? `${text.slice(0, TEXT)}…` : text]);
      }
    }
    return found;
  }
}

function frameOf(at, title) {
  return {
    at, title, names: new Map(), lines: new Set(), changed: new Set(), visits: new Map(), seen: 0,
  };
}

function* keysOf(value) {
  const names = [];
  for (const name in value) names.push(name);
  for (const name of names) if (name in value) yield name;
}
