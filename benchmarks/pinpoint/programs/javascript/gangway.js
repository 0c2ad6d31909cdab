// In how many ways the gangway can be climbed, one or two steps at a time.
const known = new Map();

function ways(steps) {
  if (steps < 0) {
    return 0;
  }
  if (steps === 0) {
    return 1;
  }
  if (known.has(steps)) {
    return known.get(steps);
  }
  const count = ways(steps - 1) + ways(steps - 2);
  known.set(steps, count);
  return count;
}

function table(most) {
  const rows = [];
  for (let steps = 1; steps <= most; steps++) {
    rows.push(`${steps}: ${ways(steps)}`);
  }
  return rows;
}
