/* What only a browser has and a course begins with: `prompt`, `alert`, `confirm`, `document.write`.
   Here they read what is typed in and print as plain text. Node's own are left where it has them.
*/
"use strict";

const YES = new Set(["", "y", "yes", "ok", "true", "1"]);

class InputEnded extends outside.Error {
  constructor() {
    super("there is no more input");
    this.name = "InputEnded";
  }
}

function install(typed) {
  const used = new Set();

  const print = (text) => typed.print(text);

  function ask(message) {
    const line = typed.answer(message);
    if (line === null) throw new InputEnded();
    return line;
  }

  const stand = {
    prompt(message = "", fallback = "") {
      used.add("prompt");
      return ask(String(message)) || String(fallback);
    },
    alert(message = "") {
      used.add("alert");
      print(`${message}\n`);
    },
    confirm(message = "") {
      used.add("confirm");
      return YES.has(ask(String(message)).trim().toLowerCase());
    },
  };
  const document = {
    write(...texts) {
      used.add("document.write");
      print(plain(texts.join("")));
    },
    writeln(...texts) {
      used.add("document.write");
      print(`${plain(texts.join(""))}\n`);
    },
  };
  for (const [name, value] of Object.entries({ ...stand, document })) {
    if (!(name in outside)) {
      Object.defineProperty(outside, name, { value, writable: true, configurable: true });
    }
  }
  return used;
}

/** Text without its tags; a break is a new line. */
function plain(text) {
  const broken = text.replace(/<br\s*\/?>|<\/(p|div|h[1-6]|li|tr)>/gi, "\n");
  const bare = broken.replace(/<[^>]*>/g, "");
  return bare.replace(/&lt;/g, "<").replace(/&gt;/g, ">").replace(/&nbsp;/g, " ").replace(/&amp;/g, "&");
}

Object.assign(exported, { InputEnded, install, plain });
