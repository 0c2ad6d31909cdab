// Which islands can be reached with at most so many changes.
function reach(lines, start, changes) {
  const seen = new Set([start]);
  let edge = [start];
  for (let round = 0; round <= changes; round++) {
    const next = [];
    for (const island of edge) {
      for (const [from, to] of lines) {
        if (from === island && !seen.has(to)) {
          seen.add(to);
          next.push(to);
        }
        if (to === island && !seen.has(from)) {
          seen.add(from);
          next.push(from);
        }
      }
    }
    edge = next;
  }
  seen.delete(start);
  return [...seen].sort();
}

function changesTo(lines, start, goal) {
  for (let changes = 0; changes < 10; changes++) {
    if (reach(lines, start, changes).includes(goal)) {
      return changes;
    }
  }
  return -1;
}
