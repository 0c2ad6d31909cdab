/* Values as they are at a moment: copied, so that what the program does later leaves them alone. */
"use strict";

const { types } = native("util");
const values = ours("values");

const OPAQUE = Symbol("opaque"); // a value that is not looked into
const LARGE = 300; // values in all: a larger one is not kept

const { getPrototypeOf, getOwnPropertyDescriptor, keys: keysOf, create, defineProperty } = Object;
const dateTime = Date.prototype.getTime;

/** Copies into a world, `home` its global object; two names for one list are so in the copy. */
class Copier {
  #home;
  #known = new Map();
  #left;

  constructor(home, most = Infinity) {
    this.#home = home;
    this.#left = most;
  }

  /** A copy; functions, promises and the like are what they were. Throws OPAQUE past the size. */
  of(value) {
    this.#left -= 1;
    if (this.#left < 0) throw OPAQUE;
    if (value === null || typeof value !== "object" || types.isProxy(value)) return value;
    if (this.#known.has(value)) return this.#known.get(value);
    const kept = (copy) => (this.#known.set(value, copy), copy);
    if (Array.isArray(value)) {
      const copy = kept(new this.#home.Array());
      for (let n = 0; n < value.length; n += 1) copy[n] = this.of(held(value, n));
      return copy;
    }
    if (types.isMap(value)) {
      const copy = kept(new this.#home.Map());
      for (const [key, one] of values.entriesOf(value)) copy.set(this.of(key), this.of(one));
      return copy;
    }
    if (types.isSet(value)) {
      const copy = kept(new this.#home.Set());
      for (const one of values.membersOf(value)) copy.add(this.of(one));
      return copy;
    }
    if (types.isDate(value)) return new this.#home.Date(dateTime.call(value));
    return isPlain(value) ? this.#fields(value, kept(create(getPrototypeOf(value)))) : value;
  }

  #fields(value, copy) {
    for (const key of keysOf(value)) {
      const told = getOwnPropertyDescriptor(value, key);
      if ("value" in told) copy[key] = this.of(told.value);
      else defineProperty(copy, key, told);
    }
    return copy;
  }
}

/** An item, without running what a getter would. */
function held(array, at) {
  const told = getOwnPropertyDescriptor(array, at);
  return told && "value" in told ? told.value : undefined;
}

/** Whether an object is fields and nothing else: what stands behind others cannot be copied. */
function isPlain(value) {
  return !(types.isRegExp(value) || types.isPromise(value) || types.isNativeError(value) ||
    types.isBoxedPrimitive(value) || ArrayBuffer.isView(value) || types.isAnyArrayBuffer(value) ||
    types.isWeakMap(value) || types.isWeakSet(value) || types.isGeneratorObject(value) ||
    types.isExternal(value));
}

/** A value as it is now; OPAQUE where it is large, a function, or of a class of the program's. */
function kept(value, home) {
  if (typeof value === "function" || typeof value === "symbol") return OPAQUE;
  if (value === null || typeof value !== "object") return value;
  const known = Array.isArray(value) || types.isMap(value) || types.isSet(value);
  if (types.isProxy(value) || !isPlain(value)) return OPAQUE;
  if (!known && values.className(value) !== "") return OPAQUE;
  try {
    return new Copier(home, LARGE).of(value);
  } catch (fault) {
    if (fault !== OPAQUE) throw fault;
    return OPAQUE;
  }
}

Object.assign(exported, { Copier, OPAQUE, kept });
