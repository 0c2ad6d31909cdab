function freeRuns(row) {
  const runs = [];
  let start = -1;
  for (let i = 0; i < row.length; i++) {
    if (row[i] === "." && start < 0) {
      start = i;
    } else if (row[i] !== "." && start >= 0) {
      runs.push([start, i - start]);
      start = -1;
    }
  }
  if (start >= 0) {
    runs.push([start, row.length - start]);
  }
  return runs;
}

function best(rows, party) {
  let found = null;
  rows.forEach((row, number) => {
    for (const [start, length] of freeRuns(row)) {
      if (length >= party && (found === null || length < found.length)) {
        found = { row: number + 1, seat: start + 1, length };
      }
    }
  });
  return found;
}

function told(rows, party) {
  const place = best(rows, party);
  return place === null ? "no room" : `row ${place.row} seat ${place.seat}`;
}
