// The car deck as rows of cars, turned so that lanes become rows.
function turned(deck) {
  const out = [];
  for (let lane = 0; lane < deck[0].length; lane++) {
    const row = [];
    for (let line = 0; line < deck.length; line++) {
      row.push(deck[line][lane]);
    }
    out.push(row);
  }
  return out;
}

function laneWeights(deck) {
  return turned(deck).map((lane) => lane.reduce((sum, kilos) => sum + kilos, 0));
}

function tilt(deck) {
  const weights = laneWeights(deck);
  const half = Math.floor(weights.length / 2);
  let left = 0;
  let right = 0;
  for (let i = 0; i < half; i++) {
    left += weights[i];
    right += weights[weights.length - 1 - i];
  }
  return left - right;
}
