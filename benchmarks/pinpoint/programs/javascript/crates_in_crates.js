// Crates stand in crates: what they weigh, and how deep they go.
function weight(crate) {
  let sum = crate.kilos;
  for (const inner of crate.inside) {
    sum += weight(inner);
  }
  return sum;
}

function depth(crate) {
  let deepest = 0;
  for (const inner of crate.inside) {
    deepest = Math.max(deepest, depth(inner));
  }
  return deepest + 1;
}

function names(crate) {
  const found = [crate.name];
  for (const inner of crate.inside) {
    found.push(...names(inner));
  }
  return found;
}

function example(levels) {
  if (levels === 0) {
    return { name: "tin", kilos: 1, inside: [] };
  }
  return { name: `box ${levels}`, kilos: 2, inside: [example(levels - 1), example(0)] };
}
