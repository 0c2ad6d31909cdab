/* The file that node is started with: takes one request, carries it out.

   Arguments: the number of the descriptor to read the request from, and of the one to answer on.
   Nothing of ours stands where the program can find it by a name: the modules beside this file are
   loaded by hand, with the functions of the system as they were found, and leave no trace in the
   cache of modules. The wire is described in `run/wire.py`, each message's fields in
   `run/messages.py`.
*/
"use strict";

const fs = require("fs");
const path = require("path");
const vm = require("vm");

const loaded = new Map();
// A world of our own: what the program puts into `Array.prototype` or `JSON` is for itself.
const world = vm.createContext();
const PARTS = ["ours", "native", "exported", "outside", "bring"];

/** One of our modules: its text is run once, given what stands in for `require`. */
function ours(name) {
  if (!loaded.has(name)) {
    const file = path.join(__dirname, `${name}.js`);
    const text = fs.readFileSync(file, "utf8");
    const made = vm.compileFunction(text, PARTS, { filename: file, parsingContext: world });
    const exported = {};
    loaded.set(name, exported);
    made(ours, require, exported, globalThis, (name) => import(name));
  }
  return loaded.get(name);
}

function main() {
  const [asked, wire] = process.argv.slice(2).map(Number);
  const channel = new (ours("wire").Channel)(wire);
  const next = ours("requests").reader(asked);
  const request = next();
  if (!request || request.version !== ours("wire").VERSION) {
    channel.send("refused", { text: "The request is of another version." });
    process.exit(70);
  }
  channel.take(request);
  delete require.cache[__filename];
  if (request.mode === "trials") {
    ours("trials").serve(request, channel, next);
  } else {
    ours("one").run(request, channel);
  }
}

main();
