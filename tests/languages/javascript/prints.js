// The other half of prints.py: writes down what names hold, in plain words, and nothing else.
const told = [];
const LEVELS = 3;

function text(value, levels, inside) {
  if (typeof value === "function") return null;
  if (typeof value === "string") {
    const inner = JSON.stringify(value).slice(1, -1).replaceAll('\\"', '"');
    return value.includes("'") ? JSON.stringify(value) : `'${inner}'`;
  }
  if (typeof value === "bigint") return `${value}n`;
  if (Object.is(value, -0)) return "-0";
  if (value === null || typeof value !== "object") return String(value);
  if (inside.includes(value) || levels === 0) return null;
  const below = (one) => text(one, levels - 1, [...inside, value]);
  const pairs = (entries, between) => entries.map(([k, v]) => [k, below(v)]).map(([k, v]) => (v === null ? null : k + between + v));
  const joined = (open, parts, close) => (parts.includes(null) ? null : open + parts.join(", ") + close);
  const made = Object.getPrototypeOf(value)?.constructor?.name;
  if (Array.isArray(value)) return joined("[", Array.from(value, below), "]");
  if (value instanceof Set) return value.size ? joined("{", [...value].map(below), "}") : null;
  if (value instanceof Map) return joined("{", pairs([...value].map(([k, v]) => [below(k), v]), ": "), "}");
  const plain = (key) => (/^([A-Za-z_$][\w$]*|\d+)$/.test(key) ? key : text(key, 1, []));
  if (made === "Object" || made === undefined) {
    return joined("{", pairs(Object.entries(value).map(([k, v]) => [plain(k), v]), ": "), "}");
  }
  return ["Promise", "RegExp", "Date", "Error"].some((name) => made.includes(name)) || Symbol.iterator in value
    ? null // of these only the recorder says more than their kind
    : joined(`${made}(`, pairs(Object.entries(value), "="), ")");
}

globalThis.__seen = (line, inside, names) => {
  const found = {};
  for (const [name, [whose, look]] of Object.entries(names)) {
    try {
      const shown = text(look(), LEVELS, []);
      if (shown !== null) found[name] = [whose, shown];
    } catch (error) {
      if (!(error instanceof ReferenceError)) throw error; // not yet there, or in another block
    }
  }
  told.push([line, inside, found]);
};

const typed = [];
globalThis.prompt = (asked = "") => {
  if (!typed.length) typed.push(...require("fs").readFileSync(0, "utf8").replace(/\n$/, "").split("\n"));
  process.stdout.write(asked);
  return typed.shift();
};

process.on("exit", () => require("fs").writeFileSync(process.env.TOLD, JSON.stringify(told)));
