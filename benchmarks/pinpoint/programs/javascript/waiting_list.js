// The waiting list of the ferry, by booking number.
function sorted(numbers) {
  return [...numbers].sort((a, b) => a - b);
}

function place(numbers, mine) {
  return sorted(numbers).indexOf(mine) + 1;
}

function firstFew(numbers, count) {
  return sorted(numbers).slice(0, count);
}

function gaps(numbers) {
  const line = sorted(numbers);
  const found = [];
  for (let i = 1; i < line.length; i++) {
    if (line[i] - line[i - 1] > 1) {
      found.push([line[i - 1], line[i]]);
    }
  }
  return found;
}
