function walk(grid, moves) {
  let [row, column] = [0, 0];
  let collected = 0;
  const seen = new Set();
  const steps = { N: [-1, 0], S: [1, 0], E: [0, 1], W: [0, -1] };
  for (const move of moves) {
    const [down, right] = steps[move];
    const r = row + down;
    const c = column + right;
    if (r < 0 || c < 0 || r >= grid.length || c >= grid[0].length || grid[r][c] === "#") {
      continue;
    }
    row = r;
    column = c;
    const key = `${r},${c}`;
    if (grid[r][c] === "o" && !seen.has(key)) {
      collected++;
      seen.add(key);
    }
  }
  return { row, column, collected };
}

function counts(grid) {
  const found = {};
  for (const line of grid) {
    for (const mark of line) {
      found[mark] = (found[mark] || 0) + 1;
    }
  }
  return found;
}

function report(grid, moves) {
  const { row, column, collected } = walk(grid, moves);
  const all = counts(grid)["o"] || 0;
  return `at ${row},${column} with ${collected} of ${all}`;
}
