function merge(stays) {
  const merged = [];
  for (const [first, last] of [...stays].sort((a, b) => a[0] - b[0])) {
    const end = merged[merged.length - 1];
    if (end && first <= end[1]) {
      end[1] = Math.max(end[1], last);
    } else {
      merged.push([first, last]);
    }
  }
  return merged;
}

function daysTaken(stays) {
  let total = 0;
  for (const [first, last] of merge(stays)) {
    total += last - first + 1;
  }
  return total;
}

function report(stays) {
  return [merge(stays), daysTaken(stays)];
}
