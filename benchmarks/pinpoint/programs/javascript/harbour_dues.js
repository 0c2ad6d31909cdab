const BANDS = [[10, 2], [25, 1.5], [50, 1]];
const ABOVE = 0.5;

function dues(tonnes) {
  let owed = 0;
  let below = 0;
  for (const [limit, rate] of BANDS) {
    if (tonnes > limit) {
      owed += (limit - below) * rate;
    } else {
      owed += (tonnes - below) * rate;
      return owed;
    }
    below = limit;
  }
  owed += (tonnes - below) * ABOVE;
  return owed;
}

function bill(ships) {
  const lines = [];
  let total = 0;
  for (const { name, tonnes, nights } of ships) {
    let owed = dues(tonnes) * nights;
    if (nights >= 7) {
      owed = owed * 0.9;
    }
    total += owed;
    lines.push(`${name}: ${owed.toFixed(2)}`);
  }
  lines.push(`total: ${total.toFixed(2)}`);
  return lines;
}
