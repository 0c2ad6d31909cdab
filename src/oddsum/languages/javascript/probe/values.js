/* Values as texts, and whether two are the same by structure; none of the program's code is run:
   getters are not called, proxies not looked into. */
"use strict";

const { types } = native("util");
const { is, getPrototypeOf, getOwnPropertyDescriptor, keys: keysOf } = Object;
const isArray = Array.isArray;
const { apply, ownKeys } = Reflect;
const functionText = Function.prototype.toString;
const mapEntries = Map.prototype.entries;
const setValues = Set.prototype.values;
const mapNext = getPrototypeOf(new Map().entries()).next;
const setNext = getPrototypeOf(new Set().values()).next;
const dateTime = Date.prototype.getTime;
const dateText = Date.prototype.toISOString;
const stringifyText = JSON.stringify;
const regexpText = RegExp.prototype.toString;

const LEVELS = 6; // that a text goes down
const ITEMS = 1000; // of one list or object, that are told
const CHARS = 100_000; // of a text that is told whole
const PLAIN_NAME = /^[A-Za-z_$][\w$]*$/;

/** The class of an object by its constructor's name; blank for plain ones, of whatever world. */
function className(value) {
  const kind = getPrototypeOf(value);
  if (kind === null || getPrototypeOf(kind) === null) return "";
  const made = getOwnPropertyDescriptor(kind, "constructor");
  const name = made && typeof made.value === "function" ? getOwnPropertyDescriptor(made.value, "name") : null;
  return name && typeof name.value === "string" ? name.value : "";
}

function quoted(text) {
  const shown = text.length > CHARS ? `${text.slice(0, CHARS)}…` : text;
  const inner = stringifyText(shown).slice(1, -1);
  if (!shown.includes("'")) return `'${inner.replaceAll('\\"', '"')}'`;
  if (!shown.includes('"')) return `"${inner}"`;
  return `'${inner.replaceAll('\\"', '"').replaceAll("'", "\\'")}'`;
}

function scalarText(value) {
  if (typeof value === "string") return quoted(value);
  if (typeof value === "bigint") return `${value}n`;
  if (typeof value === "symbol") return String(value);
  if (is(value, -0)) return "-0";
  return String(value);
}

function functionName(value) {
  const named = getOwnPropertyDescriptor(value, "name");
  const name = named && typeof named.value === "string" ? named.value : "";
  const kind = apply(functionText, value, []).startsWith("class") ? "class" : "function";
  return `<${kind}${name ? ` ${name}` : ""}>`;
}

function keyText(key) {
  if (typeof key === "symbol") return `[${String(key)}]`;
  return PLAIN_NAME.test(key) || /^\d+$/.test(key) ? key : quoted(key);
}

function entriesOf(map) {
  const iterator = apply(mapEntries, map, []);
  const found = [];
  for (let step = apply(mapNext, iterator, []); !step.done; step = apply(mapNext, iterator, [])) {
    found.push(step.value);
  }
  return found;
}

function membersOf(set) {
  const iterator = apply(setValues, set, []);
  const found = [];
  for (let step = apply(setNext, iterator, []); !step.done; step = apply(setNext, iterator, [])) {
    found.push(step.value);
  }
  return found;
}

/** What an object holds under its own names that can be listed: `[key, value]`, getters as such. */
function fieldsOf(value) {
  const found = [];
  for (const key of keysOf(value)) {
    const told = getOwnPropertyDescriptor(value, key);
    if (told) found.push([key, "value" in told ? told.value : GETTER]);
  }
  return found;
}

const GETTER = Symbol("getter");

/** The text of a value, as one would write it in a program where that can be. */
function textOf(value, levels = LEVELS, around = []) {
  if (value === GETTER) return "<getter>";
  if (typeof value === "function") return functionName(value);
  if (value === null || typeof value !== "object") return scalarText(value);
  if (types.isProxy(value)) return "<Proxy>";
  if (around.includes(value)) return "(itself)";
  const inside = [...around, value];
  const more = (one) => textOf(one, levels - 1, inside);
  const name = className(value);
  const few = (items, told) => {
    const texts = items.slice(0, ITEMS).map(told);
    if (items.length > ITEMS) texts.push(`… ${items.length - ITEMS} more`);
    return texts.join(", ");
  };
  if (isArray(value)) {
    if (!levels) return "[…]";
    const items = Array.from({ length: Math.min(value.length, ITEMS) }, (_, n) => {
      const told = getOwnPropertyDescriptor(value, n);
      return told ? ("value" in told ? more(told.value) : "<getter>") : "";
    });
    if (value.length > ITEMS) items.push(`… ${value.length - ITEMS} more`);
    return `[${items.join(", ")}]`;
  }
  if (types.isMap(value)) {
    return levels ? `new Map([${few(entriesOf(value), ([k, v]) => `[${more(k)}, ${more(v)}]`)}])` : "new Map(…)";
  }
  if (types.isSet(value)) {
    return levels ? `new Set([${few(membersOf(value), more)}])` : "new Set(…)";
  }
  if (types.isDate(value)) {
    const time = apply(dateTime, value, []);
    return time === time ? `new Date('${apply(dateText, value, [])}')` : "new Date(NaN)";
  }
  if (types.isRegExp(value)) return apply(regexpText, value, []);
  if (types.isPromise(value)) return "<Promise>";
  if (types.isNativeError(value)) {
    const message = getOwnPropertyDescriptor(value, "message");
    return `new ${name || "Error"}(${message ? more(message.value) : ""})`;
  }
  if (types.isBoxedPrimitive(value)) return `new ${name}(${scalarText(value.valueOf())})`;
  if (types.isTypedArray(value)) return `${name}(${value.length})`;
  const told = levels ? few(fieldsOf(value), ([k, v]) => `${keyText(k)}: ${more(v)}`) : "…";
  return name ? `${name} {${told}}` : `{${told}}`;
}

/** What the type of a value is called. */
function typeOf(value) {
  if (value === null) return "null";
  if (isArray(value)) return "array";
  if (typeof value === "object") return types.isProxy(value) ? "Proxy" : className(value) || "object";
  return typeof value;
}

function sameNumber(one, other, tolerance) {
  if (one === other || (one !== one && other !== other)) return true;
  if (Number.isInteger(one) && Number.isInteger(other)) return false;
  if (!Number.isFinite(one) || !Number.isFinite(other)) return false;
  return Math.abs(one - other) <= tolerance * Math.max(Math.abs(one), Math.abs(other));
}

/** Whether two values are the same by structure, numbers within a relative tolerance. */
function same(one, other, tolerance, pairs = []) {
  if (typeof one === "number" && typeof other === "number") return sameNumber(one, other, tolerance);
  if (typeof one !== "object" || typeof other !== "object" || one === null || other === null) {
    return one === other;
  }
  if (one === other || pairs.some(([a, b]) => a === one && b === other)) return true;
  const known = [...pairs, [one, other]];
  const alike = (a, b) => same(a, b, tolerance, known);
  if (isArray(one) || isArray(other)) {
    return (
      isArray(one) && isArray(other) && one.length === other.length &&
      keysOf(one).concat(keysOf(other)).every((k) => alike(one[k], other[k]))
    );
  }
  if (types.isMap(one) || types.isMap(other)) {
    if (!types.isMap(one) || !types.isMap(other)) return false;
    const left = entriesOf(other);
    return matched(entriesOf(one), left, ([k, v], [l, w]) => alike(k, l) && alike(v, w));
  }
  if (types.isSet(one) || types.isSet(other)) {
    if (!types.isSet(one) || !types.isSet(other)) return false;
    return matched(membersOf(one), membersOf(other), alike);
  }
  if (types.isDate(one) && types.isDate(other)) {
    return sameNumber(apply(dateTime, one, []), apply(dateTime, other, []), 0);
  }
  if (types.isRegExp(one) && types.isRegExp(other)) {
    return apply(regexpText, one, []) === apply(regexpText, other, []);
  }
  if (types.isNativeError(one) && types.isNativeError(other)) {
    return one.name === other.name && one.message === other.message;
  }
  if (types.isProxy(one) || types.isProxy(other)) return false;
  const [mine, theirs] = [fieldsOf(one), new Map(fieldsOf(other))];
  return (
    mine.length === theirs.size && mine.every(([k, v]) => theirs.has(k) && alike(v, theirs.get(k)))
  );
}

/** Whether each of some has one of the others to itself, in any order. */
function matched(some, others, alike) {
  if (some.length !== others.length) return false;
  const left = [...others];
  return some.every((one) => {
    const at = left.findIndex((other) => alike(one, other));
    if (at >= 0) left.splice(at, 1);
    return at >= 0;
  });
}

Object.assign(exported, {
  CHARS, GETTER, ITEMS, className, entriesOf, fieldsOf, functionName, keyText, membersOf, ownKeys,
  quoted, same, scalarText, textOf, typeOf,
});
