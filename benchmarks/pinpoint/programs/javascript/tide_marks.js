// High and low water of a day, and how long the pier can be used.
function highest(levels) {
  let best = levels[0];
  for (let i = 1; i < levels.length; i++) {
    if (levels[i] > best) {
      best = levels[i];
    }
  }
  return best;
}

function lowest(levels) {
  let best = Infinity;
  for (const level of levels) {
    if (level < best) {
      best = level;
    }
  }
  return best;
}

function usable(levels, need) {
  let hours = 0;
  for (const level of levels) {
    if (level >= need) {
      hours += 1;
    }
  }
  return hours;
}

function span(levels) {
  return Math.round((highest(levels) - lowest(levels)) * 10) / 10;
}
