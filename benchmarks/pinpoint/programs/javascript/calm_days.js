// The longest run of calm days.
function longest(winds, limit) {
  let best = 0;
  let run = 0;
  for (const wind of winds) {
    if (wind <= limit) {
      run++;
      if (run > best) {
        best = run;
      }
    } else {
      run = 0;
    }
  }
  return best;
}

function startOf(winds, limit) {
  const length = longest(winds, limit);
  if (length === 0) {
    return -1;
  }
  for (let i = 0; i < winds.length; i++) {
    const part = winds.slice(i, i + length);
    if (part.every((wind) => wind <= limit)) {
      return i;
    }
  }
  return -1;
}
