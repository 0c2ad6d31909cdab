function longestCalm(winds, limit) {
  let bestStart = 0;
  let bestLength = 0;
  let start = 0;
  winds.forEach((wind, day) => {
    if (wind > limit) {
      start = day + 1;
      return;
    }
    const length = day - start + 1;
    if (length > bestLength) {
      bestStart = start;
      bestLength = length;
    }
  });
  return [bestStart, bestLength];
}

function smooth(winds, width) {
  const made = [];
  for (let day = 0; day < winds.length; day++) {
    const first = Math.max(0, day - width + 1);
    const some = winds.slice(first, day + 1);
    const sum = some.reduce((a, b) => a + b, 0);
    made.push(Math.round((sum / some.length) * 10) / 10);
  }
  return made;
}

function forecast(winds, limit, width) {
  const [start, length] = longestCalm(winds, limit);
  return [start, length, winds.slice(start, start + length), smooth(winds, width)];
}
