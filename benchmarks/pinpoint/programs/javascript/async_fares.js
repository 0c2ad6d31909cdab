// Fares that are looked up with a little delay, as from another office.
const FARES = { adult: 6, child: 3, dog: 2 };

function lookUp(kind) {
  return new Promise((resolve) => {
    setTimeout(() => resolve(FARES[kind] ?? 0), 5);
  });
}

async function partyFare(kinds) {
  let total = 0;
  for (const kind of kinds) {
    const fare = await lookUp(kind);
    total += fare;
  }
  return total;
}

async function dearest(kinds) {
  const fares = await Promise.all(kinds.map((kind) => lookUp(kind)));
  return Math.max(...fares);
}

async function main(text) {
  const kinds = text.split(",");
  console.log("fare:", await partyFare(kinds));
  console.log("dearest:", await dearest(kinds));
}

const input = require("fs").readFileSync(0, "utf8").trim();
main(input);
