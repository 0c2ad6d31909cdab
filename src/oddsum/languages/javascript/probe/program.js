/* The learner's program: run as node runs it, or loaded so that a call can be made in it.

   Where the tool has made the sources ready (what a call needs of them, or woven for a recording),
   these stand for the files. A file that is a module in the newer sense (`import`, `export`) goes
   through node's own source text modules then, every other one through its ordinary loader.
*/
"use strict";

const fs = native("fs");
const path = native("path");
const vm = native("vm");
const Module = native("module");
const { pathToFileURL, fileURLToPath } = native("url");

const { readFileSync, existsSync, statSync } = fs;
const ENDINGS = ["", ".js", ".mjs", ".cjs", ".json", "/index.js"];
const HOOK = "ǂwith"; // stands at the end of the program, and lets a call be worked out in it

class Program {
  constructor(request) {
    this.folder = request.folder;
    this.path = path.join(request.folder, request.program);
    this.sources = request.sources || null;
    this.modern = new Set(request.modern || []); // files with `import` or `export` in them
    this.within = null; // works out a text in the program's module
    this.modules = new Map();
  }

  isOwn(file) {
    return typeof file === "string" && file.startsWith(this.folder + path.sep);
  }

  nameOf(file) {
    return file.slice(this.folder.length + 1);
  }

  /** Run it as `node PROGRAM` would. A promise where its module is one that can wait. */
  run() {
    outside.process.argv[1] = this.path;
    if (this.sources === null) {
      Module.runMain();
      return undefined;
    }
    return this.load();
  }

  /** Load it from what the tool made ready. */
  load() {
    outside.process.argv[1] = this.path;
    this.#standFor();
    if (this.#isModern(this.path)) return this.#modern(this.path).then((m) => m.evaluate());
    Module._load(this.path, null, true);
    return undefined;
  }

  /** Have the ordinary loader take our texts. */
  #standFor() {
    const program = this;
    Object.defineProperty(outside, HOOK, {
      configurable: true,
      set(within) {
        program.within = within;
        delete outside[HOOK];
      },
    });
    for (const ending of [".js", ".cjs"]) {
      const ordinary = Module._extensions[ending] || Module._extensions[".js"];
      Module._extensions[ending] = function (module, file) {
        const text = program.text(file);
        if (text === null) return ordinary(module, file);
        return module._compile(text, file);
      };
    }
  }

  /** A file's text as the tool made it, with the hook at the end of the program itself. */
  text(file) {
    if (!this.isOwn(file)) return null;
    const text = this.sources[this.nameOf(file)];
    if (text === undefined) return null;
    return file === this.path ? `${text}\n;${HOOK} = (ǂtext) => eval(ǂtext);` : text;
  }

  #isModern(file) {
    if (file.endsWith(".mjs")) return true;
    if (file.endsWith(".cjs")) return false;
    if (this.modern.has(this.nameOf(file))) return true;
    for (let folder = path.dirname(file); ; folder = path.dirname(folder)) {
      const facts = path.join(folder, "package.json");
      if (existsSync(facts)) {
        try {
          return JSON.parse(readFileSync(facts, "utf8")).type === "module";
        } catch {
          return false;
        }
      }
      if (folder === path.dirname(folder)) return false;
    }
  }

  async #modern(file) {
    const module = this.#moduleOf(file);
    if (module.status === "unlinked") await module.link((name, from) => this.#linked(name, from));
    return module;
  }

  #moduleOf(file) {
    if (!this.modules.has(file)) {
      const made = new vm.SourceTextModule(this.text(file) ?? readFileSync(file, "utf8"), {
        identifier: pathToFileURL(file).href,
        initializeImportMeta: (meta) => {
          meta.url = pathToFileURL(file).href;
          meta.filename = file;
          meta.dirname = path.dirname(file);
        },
        importModuleDynamically: (name, from) => this.#linked(name, from).then(evaluated),
      });
      this.modules.set(file, made);
    }
    return this.modules.get(file);
  }

  async #linked(name, from) {
    const base = fileURLToPath(from.identifier);
    if (/^[./]/.test(name) || name.startsWith("file:")) {
      const wanted = name.startsWith("file:") ? fileURLToPath(name) : path.resolve(path.dirname(base), name);
      const file = fs.existsSync(wanted) && statSync(wanted).isFile() ? wanted : null;
      if (file !== null && this.isOwn(file) && this.#isModern(file)) return this.#moduleOf(file);
      return ordinary(file === null ? await bring(pathToFileURL(wanted).href) : Module._load(file, null, false));
    }
    return ordinary(await bring(Module.isBuiltin(name) ? name : pathToFileURL(Module.createRequire(base).resolve(name)).href));
  }
}

async function evaluated(module) {
  if (module.status === "unlinked") throw new outside.Error("a module that is loaded late cannot be followed");
  if (module.status === "linked") await module.evaluate();
  return module;
}

/** A module of the ordinary kind, or of the system's, as one that can be linked. */
async function ordinary(found) {
  const names = [...new Set([...Object.keys(found ?? {}), "default"])];
  const made = new vm.SyntheticModule(names, function () {
    for (const name of names) {
      this.setExport(name, name === "default" ? (found?.default ?? found) : found[name]);
    }
  });
  await made.link(() => {});
  await made.evaluate();
  return made;
}

Object.assign(exported, { ENDINGS, Program });
