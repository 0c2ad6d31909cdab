// Weather codes of the pier, put into words, and what they mean for the ferry.
const WORDS = { c: "calm", b: "breeze", g: "gale", s: "storm" };

function words(codes) {
  let out = [];
  for (const code of codes) {
    out.push(WORDS[code] || "unknown");
  }
  return out.join(", ");
}

function sails(codes) {
  for (const code of codes) {
    if (code === "g" || code === "s") {
      return false;
    }
  }
  return true;
}

function worst(codes) {
  const order = "cbgs";
  let at = 0;
  for (const code of codes) {
    if (order.indexOf(code) > at) {
      at = order.indexOf(code);
    }
  }
  return WORDS[order[at]];
}
