// Names on the quay list, each kept once, in the order they came.
function once(names) {
  const kept = [];
  for (const name of names) {
    if (!kept.includes(name)) {
      kept.push(name);
    }
  }
  return kept;
}

function twice(names) {
  const seen = new Set();
  const again = new Set();
  for (const name of names) {
    if (seen.has(name)) {
      again.add(name);
    }
    seen.add(name);
  }
  return [...again];
}

function without(names, gone) {
  return names.filter((name) => !gone.includes(name));
}
