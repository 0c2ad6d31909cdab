function depth(crate, level = 0) {
  const inner = crate.inside ?? [];
  if (level > 2) {
    return level;
  }
  let deepest = level;
  for (const one of inner) {
    const found = depth(one, level + 1);
    if (found > deepest) {
      deepest = found;
    }
  }
  return deepest;
}
function search(rows, wanted) {
  let steps = 0;
  outer: for (let r = 0; r < rows.length; r++) {
    for (let c = 0; c < rows[r].length; c++) {
      steps++;
      if (rows[r][c] === wanted) {
        break outer;
      }
      if (rows[r][c] < 0) {
        continue outer;
      }
    }
  }
  return steps;
}
function careful(value) {
  let told = "";
  try {
    if (value > 2) {
      throw new RangeError("too many");
    }
    told += "fine";
    return told;
  } catch (error) {
    told += error.name;
  } finally {
    told += "!";
    console.log(told);
  }
  do {
    value--;
  } while (value > 0);
  return value;
}
const crate = { inside: [{ inside: [{}] }, {}] };
const deep = depth(crate);
const steps = search([[1, -1, 3], [4, 5]], 5);
const a = careful(1);
const b = careful(3);
let n = 0;
for (;;) {
  n += 1;
  if (n > 2) break;
}
for (let i = 0, j = 5; i < j; i++, j--) {
  n += j;
}
for (const key in { x: 1, y: 2 }) {
  n += key.length;
}
console.log(deep, steps, a, b, n);
