/* The recorder: what the woven calls do. See `weave.py` for what stands in the program.

   Everything is appended to one flat list in the words of `trace/decode.py`: an event's operands,
   then its tag. What a recording keeps of a value is a node of json (`scalars.py` reads it):
   `{d: 5}` for a number, `{t: text}`, `{b: 1}` for true, `{z: 0}` null, `{u: 0}` undefined, `{f: "1e-7"}` a
   number that Python would write in another way, `{o: 5}` an object that is known by its number,
   `{n: [kind, size, items]}` what is in an object, `{k: name}` a key, and a row of four for what is
   not followed inside.

   Objects are known as long as a name holds them. What a statement may have changed is found by
   looking at all that are held, before the next step is noted, with what they were before.
*/
"use strict";

const {
  CHARS, ITEMS, GETTER, className, entriesOf, fieldsOf, functionName, membersOf, quoted, textOf, typeOf,
} = ours("values");
const { types } = native("util");

const LEVELS = 3;
const FLUSH = 20_000; // entries of the log that are sent at once
const CUT = 72; // the status of a run that was recorded for long enough
const LONGEST = 1000; // characters of a text that are kept
const FEW = 3; // items of one object that are told by themselves
const LASTING = 200; // calls that are over and whose objects are still looked at, at every step
const isArray = Array.isArray;
const { is, getPrototypeOf, keys: keysOf } = Object;

// Whether the program can give an object's own field a function that runs as it is read. Only then
// are fields looked at through their descriptions, which takes five times as long.
let careful = true;

exported.ink = function ink(request, channel, program) {
  careful = request.weave.careful !== false;
  return new Recorder(request, channel, program);
};

class Recorder {
  #channel;
  #log = [];
  #steps = 0;
  #most;
  #stack = [];
  #current = -1; // the statement that is under way
  #calls = 0;
  #dirty = false;
  #raised = null; // the last exception that was told of, as an object of one field
  #objects = new Map(); // held: to number, what it was, and by how many names
  #holds = new Map(); // frame to slot to object
  #lasting = []; // calls that are over and whose objects are still held, the oldest first
  #shown = new Map(); // by call, by slot: what was told last of a name that rounds have for themselves
  #slots;
  #titles; // by statement: its function
  #numbers = 0;
  #over = false;
  #visitApart = 0; // the visit at which a statement's parts are told
  #visits = 0;
  #apart = false;
  #tells = 0; // the step after which it is told what lies inside of what
  #web = null;
  #fresh = new Set(); // loops whose header has been visited already
  #watches; // why an expression is not worked out; blank for one that is
  #seen = []; // what was told of each last
  #asks = []; // what works them out where the statement under way stands

  constructor(request, channel) {
    this.#channel = channel;
    this.#most = request.limits.steps || Infinity;
    channel.send("statements", { base: 0, rows: request.weave.statements });
    this.#slots = request.weave.slots;
    this.#titles = request.weave.statements.map((row) => row[3]);
    channel.send("slots", { base: 0, rows: this.#slots.map((row) => row.slice(0, 3)) });
    const { parts } = request.weave;
    if (parts) channel.send("parts", { rows: parts.rows });
    this.#visitApart = parts ? parts.visit : 0;
    this.#tells = request.containment || 0;
    this.#watches = request.weave.watches;
    Object.defineProperty(outside, "ǂ", { value: this.#hooks(), configurable: true });
  }

  // -- what one.js tells -----------------------------------------------------------------------

  printed(text) {
    if (text) this.#log.push(String(text), "o");
  }

  read(text) {
    this.#log.push(text, "i");
  }

  output(process) {
    for (const name of ["stdout"]) {
      const stream = process[name];
      const { write } = stream;
      const recorder = this;
      stream.write = function (data, ...rest) {
        recorder.printed(typeof data === "string" ? data : Buffer.from(data).toString("utf8"));
        return write.call(this, data, ...rest);
      };
    }
  }

  error(told, error) {
    this.#raise(error, told);
  }

  end() {
    if (this.#over) return;
    this.#look();
    if (this.#tells) {
      this.#channel.send("containment", { rows: this.#web ?? this.#webNow(), steps: this.#steps });
    }
    this.#flush();
    this.#over = true;
  }

  // -- the hooks ---------------------------------------------------------------------------------

  #hooks() {
    const recorder = this;
    const log = () => recorder.#log;
    return {
      v: (statement, ...asks) => recorder.#visit(statement, false, asks),
      w: (statement, ...asks) => recorder.#visit(statement, true, asks),
      c(value) {
        recorder.#look();
        log().push(Boolean(value));
        return value;
      },
      b(slot, value) {
        recorder.#bind(slot, value);
        return value;
      },
      p: (value) => value,
      qb() {
        recorder.#visits += 1;
        recorder.#apart = recorder.#visits === recorder.#visitApart;
      },
      q(number, value) {
        if (recorder.#apart) log().push(number, recorder.#node(value), "part");
        return value;
      },
      of: (statement, over) => recorder.#rounds(statement, over),
      slow: (statement, over, frame) => recorder.#slowRounds(statement, over, frame),
      keys: (statement, over) => recorder.#rounds(statement, namesOf(over)),
      call: (statement, around, kind, cells) => recorder.#call(statement, around, kind, cells),
      r(value) {
        recorder.#look();
        log().push(recorder.#node(value), "rl");
        const frame = recorder.#stack.at(-1);
        if (frame) frame.returned = true;
        return value;
      },
      x(frame, error) {
        recorder.#again(frame);
        recorder.#raise(error);
        frame.failed = true;
        return error;
      },
      l: (frame) => recorder.#left(frame),
      h(...error) {
        recorder.#look();
        if (error.length) recorder.#raise(error[0]);
        log().push(recorder.#stack.length, "h");
        recorder.#raised = null;
      },
      leave: (frame, value) => recorder.#leave(frame, value),
      gives: (frame, value) => recorder.#gives(frame, value),
      through: (frame, over) => recorder.#through(frame, over),
      back: (frame, value) => recorder.#back(frame, value),
      again: (frame) => recorder.#again(frame),
      see: (frame, slot, home, look) => recorder.#see(frame, slot, home, look),
      done() {
        recorder.#current = -1; // what is called from here on is called by nobody
      },
      top(statement, value) {
        if (recorder.#current === statement && !recorder.#stack.length) return value;
        recorder.#look();
        log().push([], "", "k");
        recorder.#goesOn(statement);
        return value;
      },
    };
  }

  #visit(statement, changes, asks) {
    this.#look();
    this.#ask();
    this.#asks = asks;
    this.#current = statement;
    this.#dirty = changes;
    this.#log.push(statement);
    this.#step();
  }

  /** Work out what is watched, in the scope of the statement that is over. */
  #ask() {
    for (let n = 0; n < this.#asks.length; n += 1) {
      const told = this.#answer(n);
      const text = JSON.stringify(told);
      if (text === this.#seen[n]) continue;
      this.#seen[n] = text;
      this.#log.push(n, told, "w");
    }
  }

  #answer(n) {
    if (this.#watches[n]) return ["unknown", `(${this.#watches[n]})`, null, false];
    try {
      return this.#node(this.#asks[n]());
    } catch (error) {
      const why = error.name === "ReferenceError" ? "it has no value here" : String(error.message);
      return ["unknown", `(${why})`, null, false];
    }
  }

  #step() {
    if (this.#tells && this.#steps === this.#tells) this.#tellWeb();
    this.#steps += 1;
    if (this.#log.length > FLUSH) this.#flush();
    if (this.#steps > this.#most) {
      this.#flush();
      this.#over = true;
      this.#channel.send("cut", { why: "steps" });
      outside.process.reallyExit(CUT);
    }
  }

  /** Which objects lie inside of which, at which way: told once, and the run is over. */
  #tellWeb() {
    this.#channel.send("containment", { rows: this.#web ?? this.#webNow(), steps: this.#steps });
    this.#over = true;
    this.#channel.send("cut", { why: "steps" });
    outside.process.reallyExit(CUT);
  }

  #webNow() {
    const numbers = new Map([...this.#objects].map(([value, known]) => [value, known.number]));
    let following = this.#numbers;
    const rows = [];
    for (const [outer, known] of this.#objects) {
      for (const [way, inner] of membersIn(outer, LEVELS, [], [outer])) {
        if (!numbers.has(inner)) numbers.set(inner, (following += 1));
        rows.push([known.number, way, numbers.get(inner)]);
      }
    }
    return rows;
  }

  #flush() {
    if (!this.#log.length || this.#over) return;
    this.#channel.log(JSON.stringify(this.#log));
    this.#log.length = 0;
  }

  // -- calls -----------------------------------------------------------------------------------------

  #call(statement, around, kind, cells) {
    this.#look();
    this.#ask();
    this.#calls += 1;
    const frame = {
      number: this.#calls, statement, caller: this.#current, returned: false, failed: false, kind,
      lasts: Boolean(cells), first: true, asks: this.#asks, homes: new Map(), before: [],
    };
    this.#asks = [];
    this.#stack.push(frame);
    this.#log.push(statement, frame.number, "call");
    if (cells) this.#log.push("cells");
    if (around.length) this.#log.push(around, "c");
    this.#current = statement;
    this.#dirty = false;
    this.#step();
    return frame;
  }

  /** A call is over, however it ended. */
  #left(frame) {
    if (frame.kind === 1) this.#again(frame);
    if (!this.#stack.includes(frame)) {
      // A generator that nobody asks for more: it was given up where it waited, and no step is made.
      this.#letGo(frame.number);
      return;
    }
    this.#look();
    this.#ask();
    this.#asks = frame.asks;
    if (this.#tells && this.#steps === this.#tells && this.#web === null) this.#web = this.#webNow();
    if (frame.failed) {
      this.#log.push(frame.caller, "p");
    } else if (frame.returned) {
      this.#log.push("l");
    } else {
      this.#log.push({ u: 0 }, "r");
    }
    this.#pop(frame);
    if (frame.lasts) this.#lasts(frame.number);
    else this.#letGo(frame.number);
    if (frame.failed) {
      this.#current = frame.caller;
      this.#dirty = true;
    } else {
      this.#goesOn(frame.caller);
    }
    if (frame.caller >= 0) this.#seeAgain(frame);
  }

  #pop(frame) {
    const at = this.#stack.lastIndexOf(frame);
    if (at >= 0) this.#stack.splice(at, 1);
  }

  /** Whoever called goes on, where that is a statement of the program's. */
  #goesOn(caller) {
    this.#current = caller;
    this.#dirty = true;
    if (caller < 0) return;
    this.#log.push(caller, "back");
    this.#step();
  }

  /** A coroutine waits for a value. */
  #leave(frame, value) {
    this.#look();
    this.#ask();
    frame.at = this.#current;
    frame.left = this.#asks;
    this.#asks = [];
    if (frame.first) {
      this.#asks = frame.asks;
      this.#log.push(["Promise", "<Promise>", null, false], "y");
      this.#pop(frame);
      this.#goesOn(frame.caller);
    } else {
      this.#pop(frame);
      this.#log.push(this.#stack.map((f) => f.number), "", "k");
      this.#current = -1;
    }
    frame.first = false;
    frame.caller = -1;
    return value;
  }

  /** A generator gives a value, and waits. */
  #gives(frame, value) {
    this.#look();
    this.#log.push(this.#node(value), "y");
    frame.at = this.#current;
    this.#pop(frame);
    this.#goesOn(frame.caller);
    frame.caller = -1;
    return value;
  }

  /** What a generator passes on with `yield*`: with each value it waits itself. */
  #through(frame, over) {
    const recorder = this;
    const iterator = over[Symbol.iterator]();
    const given = (step) => {
      if (!step.done) recorder.#gives(frame, step.value);
      return step;
    };
    const passed = {
      [Symbol.iterator]: () => passed,
      next(value) {
        recorder.#again(frame);
        return given(iterator.next(value));
      },
    };
    if (typeof iterator.return === "function") passed.return = (value) => iterator.return(value);
    if (typeof iterator.throw === "function") {
      passed.throw = (error) => {
        recorder.#again(frame);
        return given(iterator.throw(error));
      };
    }
    return passed;
  }

  /** It goes on; a generator is called again by the statement that asks it for more. */
  #back(frame, value) {
    this.#look();
    this.#ask();
    frame.asks = this.#asks;
    this.#asks = frame.left ?? [];
    if (frame.kind === 2) {
      frame.caller = this.#current;
      this.#stack.push(frame);
      this.#log.push(frame.at ?? frame.statement, frame.number, "z");
    } else {
      this.#stack.push(frame);
      this.#log.push(this.#stack.map((f) => f.number), "", "k");
      this.#log.push(frame.at ?? frame.statement, "back");
    }
    this.#current = frame.at ?? frame.statement;
    this.#dirty = true;
    this.#step();
    return value;
  }

  /** It goes on where no value came: an awaited promise failed, or a generator is given up. */
  #again(frame) {
    if (!this.#stack.includes(frame)) this.#back(frame);
  }

  #raise(error, told = null) {
    this.#look();
    if (this.#raised !== null && is(this.#raised.error, error)) return;
    this.#raised = { error };
    const native = types.isNativeError(error) || error instanceof outside.Error;
    const kind = told ? told.type : native ? String(error.name) : "thrown";
    const text = told ? told.message : native ? String(error.message) : textOf(error);
    this.#log.push(kind, text.slice(0, LONGEST), "x");
  }

  // -- rounds ----------------------------------------------------------------------------------------

  #rounds(statement, over) {
    if (over === null || over === undefined || typeof over[Symbol.iterator] !== "function") return over;
    const iterator = over[Symbol.iterator]();
    const recorder = this;
    this.#look();
    this.#log.push(statement, "s");
    this.#fresh.add(statement);
    return {
      [Symbol.iterator]() {
        return this;
      },
      next() {
        recorder.#header(statement);
        const step = iterator.next();
        recorder.#round(statement, step.done);
        return step;
      },
      return(value) {
        return typeof iterator.return === "function" ? iterator.return(value) : { value, done: true };
      },
    };
  }

  /** `for await`: the loop waits for each item. What is returned are the iterator's own promises,
      so that nothing comes later than it would; ours is the first to hear of them. */
  #slowRounds(statement, over, frame) {
    const make = over?.[Symbol.asyncIterator];
    if (typeof make !== "function") return this.#rounds(statement, over);
    const iterator = make.call(over);
    const recorder = this;
    this.#look();
    this.#log.push(statement, "s");
    this.#fresh.add(statement);
    const waited = (given, heard) => {
      const promise = outside.Promise.resolve(given);
      this.#current = statement;
      if (frame) this.#leave(frame);
      promise.then((step) => {
        if (frame) this.#again(frame);
        heard(step);
      }, () => {});
      return promise;
    };
    return {
      [Symbol.asyncIterator]() {
        return this;
      },
      next() {
        recorder.#header(statement);
        return waited(iterator.next(), (step) => recorder.#round(statement, step.done));
      },
      return(value) {
        const end = typeof iterator.return === "function" ? iterator.return(value) : { value, done: true };
        return waited(end, () => {});
      },
    };
  }

  /** A loop's header is visited, and then asks for the next: a generator runs meanwhile. */
  #header(statement) {
    this.#look();
    this.#ask();
    this.#current = statement;
    this.#dirty = true;
    if (this.#fresh.delete(statement)) return; // it was visited as it began
    this.#log.push(statement, "n");
    this.#step();
  }

  #round(statement, done) {
    this.#look();
    this.#current = statement;
    this.#log.push(statement, done ? "e" : "f");
  }

  // -- values ------------------------------------------------------------------------------------------

  /** What a function sees of a name that each round of a loop has for itself, from its first step
      on. When the function is over, whoever goes on sees what it saw before. */
  #see(frame, slot, home, look) {
    frame.homes.set(slot, home);
    let value;
    try {
      value = look();
    } catch {
      return; // its declaration was not come to
    }
    const shown = this.#shown.get(home);
    const had = shown !== undefined && shown.has(slot);
    const before = had ? shown.get(slot) : undefined;
    if (had && is(before, value)) return;
    if (had) frame.before.push([slot, home, before]);
    this.#bind(slot, value);
  }

  #seeAgain(frame) {
    for (const [slot, home, value] of frame.before.reverse()) {
      this.#keep(home, slot, value);
      if (home === 0 || this.#stack.some((f) => f.number === home)) this.#bind(slot, value);
    }
  }

  /** Keep what is told of a name, by the call it belongs to. */
  #show(slot, value) {
    const frame = this.#stack.at(-1);
    const [title, , inModule] = this.#slots[slot];
    const own = frame !== undefined && this.#titles[frame.statement] === title;
    const home = inModule ? 0 : own ? frame.number : frame?.homes.get(slot);
    if (home !== undefined) this.#keep(home, slot, value);
  }

  #keep(home, slot, value) {
    let shown = this.#shown.get(home);
    if (shown === undefined) this.#shown.set(home, (shown = new Map()));
    shown.set(slot, value);
  }

  #bind(slot, value) {
    if (this.#slots[slot][3]) this.#show(slot, value);
    const frame = this.#frameOf();
    let slots = this.#holds.get(frame);
    if (slots === undefined) this.#holds.set(frame, (slots = new Map()));
    const before = slots.get(slot);
    if (before !== undefined && before !== value) this.#release(slots, slot, before);
    if (!isFollowed(value)) {
      this.#log.push(this.#node(value), ~slot);
      return;
    }
    let known = this.#objects.get(value);
    if (known === undefined) {
      this.#numbers += 1;
      known = { number: this.#numbers, names: 0, was: snapshot(value, LEVELS, []) };
      this.#objects.set(value, known);
      this.#log.push(known.number, this.#inside(value), "new");
    }
    if (before !== value) {
      known.names += 1;
      slots.set(slot, value);
    }
    this.#log.push({ o: known.number }, ~slot);
  }

  #frameOf() {
    const frame = this.#stack.at(-1);
    return frame ? frame.number : 0;
  }

  #release(slots, slot, value) {
    slots.delete(slot);
    const known = this.#objects.get(value);
    if (known === undefined) return;
    known.names -= 1;
    if (known.names <= 0) this.#objects.delete(value);
  }

  /** Names of a call that is over, which a function that was made in it may still use. */
  #lasts(frame) {
    this.#lasting.push(frame);
    if (this.#lasting.length > LASTING) this.#letGo(this.#lasting.shift());
  }

  #letGo(frame) {
    this.#shown.delete(frame);
    const slots = this.#holds.get(frame);
    if (slots === undefined) return;
    for (const [slot, value] of [...slots]) this.#release(slots, slot, value);
    this.#holds.delete(frame);
  }

  /** Tell of every object that is not what it was. */
  #look() {
    if (!this.#dirty) return;
    this.#dirty = false;
    for (const [value, known] of this.#objects) {
      if (isSame(value, known.was, LEVELS)) continue;
      this.#tellChange(value, known);
      known.was = snapshot(value, LEVELS, []);
    }
  }

  /** A change as shortly as it can be told: an item more, some items or fields that are others. */
  #tellChange(value, known) {
    const { was } = known;
    const list = isArray(value) && was.kind === "list";
    const now = partsOf(value);
    if (list && now.size === was.size + 1 && sameItems(now.items, was.items, was.items.length)) {
      const item = now.size > ITEMS ? undefined : now.items[now.size - 1];
      if (!isFollowed(item)) {
        this.#log.push(known.number, [], scalar(item), "add");
        return;
      }
    }
    const alike = now.kind === was.kind && now.size === was.size && now.kind !== "set";
    const others = alike ? placesOf(now, was, !list) : null;
    if (others === null || others.length > FEW) {
      this.#log.push(known.number, this.#inside(value), "all");
      return;
    }
    for (const place of others) {
      const key = list ? place : keyNode(now.items[place - 1], now.kind, LEVELS - 1, [value]);
      this.#log.push(known.number, [], key, nodeOf(now.items[place], LEVELS - 1, [value]), "set");
    }
  }

  #node(value) {
    return isFollowed(value) ? this.#inside(value) : scalar(value);
  }

  #inside(value) {
    return nodeOf(value, LEVELS, []);
  }
}

/** Whether a value is looked into: arrays, plain objects, instances, maps and sets. */
function isFollowed(value) {
  if (value === null || typeof value !== "object") return false;
  let known = FOLLOWED.get(value);
  if (known === undefined) FOLLOWED.set(value, (known = canBeFollowed(value)));
  return known;
}

const FOLLOWED = new WeakMap();

function canBeFollowed(value) {
  return !(
    types.isProxy(value) || types.isDate(value) || types.isRegExp(value) || types.isPromise(value) ||
    types.isNativeError(value) || types.isTypedArray(value) || types.isBoxedPrimitive(value) ||
    types.isGeneratorObject(value) || types.isWeakMap(value) || types.isWeakSet(value) ||
    types.isModuleNamespaceObject(value) || isOfSystem(value)
  );
}

const OF_SYSTEM = new Set(["Interface", "ReadStream", "WriteStream", "Readable", "Socket", "Timeout", "Immediate",
  "EventEmitter", "Server", "process", "Module", "FSWatcher", "Buffer"]);

function isOfSystem(value) {
  return OF_SYSTEM.has(className(value)) || value === outside;
}

function scalar(value) {
  switch (typeof value) {
    case "number": {
      const text = is(value, -0) ? "-0" : String(value);
      return /^-?\d+(\.\d+)?$/.test(text) && text !== "-0" ? { d: value } : { f: text };
    }
    case "string":
      if (value.length <= LONGEST) return { t: value };
      return ["string", quoted(`${value.slice(0, LONGEST)}…`), value.length, false];
    case "boolean":
      return { b: value ? 1 : 0 };
    case "undefined":
      return { u: 0 };
    case "function":
      return ["function", functionName(value), null, true];
    case "object":
      if (value === null) return { z: 0 };
      return [typeOf(value), textOf(value, 1), null, !types.isPromise(value)];
    default:
      return [typeof value, textOf(value), null, true];
  }
}

/** What is in an object, as a node; `around`: what it is in. */
function nodeOf(value, levels, around) {
  if (value === GETTER) return ["getter", "<getter>", null, false];
  if (!isFollowed(value)) return scalar(value);
  if (around.includes(value)) return { n: "itself" };
  const inside = [...around, value];
  const { kind, size, items } = partsOf(value);
  if (!levels) return { n: [kind, size, null] };
  const paired = kind === "dict" || kind[0] === ".";
  const told = [];
  for (let n = 0; n < items.length; n += 1) {
    const item = items[n];
    if (paired && n % 2 === 0) {
      told.push(keyNode(item, kind, levels - 1, inside));
    } else {
      told.push(nodeOf(item, levels - 1, inside));
    }
  }
  return { n: [kind, size, told] };
}

/** An object's kind, how much is in it, and its first items; keys and values in turn. */
function partsOf(value) {
  if (isArray(value)) {
    const items = [];
    for (let n = 0; n < value.length && n < ITEMS; n += 1) {
      if (!careful) {
        items.push(value[n]);
        continue;
      }
      const told = Object.getOwnPropertyDescriptor(value, n);
      items.push(told && !("value" in told) ? GETTER : told?.value);
    }
    return { kind: "list", size: value.length, items };
  }
  if (types.isMap(value)) {
    const entries = entriesOf(value);
    return { kind: "dict", size: entries.length, items: entries.slice(0, ITEMS).flatMap(([k, v]) => [new Key(k), v]) };
  }
  if (types.isSet(value)) {
    const members = membersOf(value);
    return { kind: "set", size: members.length, items: members.slice(0, ITEMS) };
  }
  const name = className(value);
  const kind = name ? `.${name}` : "dict";
  if (careful) {
    const fields = fieldsOf(value);
    return { kind, size: fields.length, items: fields.slice(0, ITEMS).flat() };
  }
  const keys = keysOf(value);
  const items = [];
  for (let n = 0; n < keys.length && n < ITEMS; n += 1) items.push(keys[n], value[keys[n]]);
  return { kind, size: keys.length, items };
}

/** Whether the first items are those that were. */
function sameItems(items, before, count) {
  for (let n = 0; n < count; n += 1) if (!isSameItem(items[n], before[n], LEVELS - 1)) return false;
  return true;
}

/** The places of items that are others than they were; null where a key is another one. */
function placesOf(now, was, paired) {
  const found = [];
  for (let n = 0; n < now.items.length; n += 1) {
    const key = paired && n % 2 === 0;
    const item = isKey(now.items[n]) ? now.items[n].key : now.items[n];
    if (isSameItem(item, was.items[n], LEVELS - 1)) continue;
    if (key) return null;
    found.push(n);
    if (found.length > FEW) break;
  }
  return found;
}

/** A key as it stands in a node: a field's name, or what a Map has a value under. */
function keyNode(key, kind, levels, around) {
  if (typeof key === "string") return kind === "dict" ? { k: key } : key;
  return nodeOf(key.key, levels, around);
}

/** What an object was, to be held against what it is later. */
function snapshot(value, levels, around) {
  if (!isFollowed(value) || around.includes(value)) return value;
  const { kind, size, items } = partsOf(value);
  const inside = [...around, value];
  const told = levels ? items : [];
  for (let n = 0; n < told.length; n += 1) {
    const item = isKey(told[n]) ? told[n].key : told[n];
    told[n] = item !== null && typeof item === "object" ? shot(item, levels - 1, inside) : item;
  }
  return { kind, size, items: levels ? told : null, proto: getPrototypeOf(value) };
}

/** A key of a Map, among its items. */
class Key {
  constructor(key) {
    this.key = key;
  }
}

const isKey = (item) => item instanceof Key;

/** An item of a snapshot that is followed itself: which it was, and what was in it. */
class Shot {
  constructor(of, was) {
    this.of = of;
    this.was = was;
  }
}

function shot(item, levels, around) {
  if (!isFollowed(item) || around.includes(item)) return item;
  return new Shot(item, snapshot(item, levels, around));
}

function isSame(value, was, levels) {
  if (!careful && !types.isMap(value) && !types.isSet(value)) return isSamePlainly(value, was, levels);
  const { kind, size, items } = partsOf(value);
  if (kind !== was.kind || size !== was.size) return false;
  for (let n = 0; levels && n < items.length; n += 1) {
    if (!isSameItem(isKey(items[n]) ? items[n].key : items[n], was.items[n], levels - 1)) return false;
  }
  return true;
}

/** The same for a list or object of whose fields none runs anything. */
function isSamePlainly(value, was, levels) {
  if (getPrototypeOf(value) !== was.proto) return false;
  if (isArray(value)) {
    if (value.length !== was.size) return false;
    for (let n = 0; levels && n < was.items.length; n += 1) {
      if (!isSameItem(value[n], was.items[n], levels - 1)) return false;
    }
    return true;
  }
  const keys = keysOf(value);
  if (keys.length !== was.size) return false;
  for (let n = 0; levels && 2 * n < was.items.length; n += 1) {
    if (keys[n] !== was.items[2 * n]) return false;
    if (!isSameItem(value[keys[n]], was.items[2 * n + 1], levels - 1)) return false;
  }
  return true;
}

function isSameItem(item, was, levels = 0) {
  if (was !== null && typeof was === "object" && was instanceof Shot) {
    return item === was.of && isSame(item, was.was, levels);
  }
  return is(item, was);
}

/** The ways into an object that lead to others, each with the object there. */
function* membersIn(value, levels, way, around) {
  const { kind, items } = partsOf(value);
  const paired = kind === "dict" || kind[0] === ".";
  for (let n = 0; n < items.length; n += paired ? 2 : 1) {
    const item = paired ? items[n + 1] : items[n];
    if (!isFollowed(item) || around.includes(item)) continue;
    const name = isKey(items[n]) && paired ? textOf(items[n].key) : items[n];
    const step = !paired ? n : kind[0] === "." ? `≠${name}` : name;
    yield [[...way, step], item];
    if (levels > 1) yield* membersIn(item, levels - 1, [...way, step], [...around, item]);
  }
}

function* namesOf(value) {
  const names = [];
  for (const name in value) names.push(name);
  for (const name of names) if (name in value) yield name;
}
