function minutes(text) {
  const [h, m] = text.split(":").map(Number);
  return h * 60 + m;
}

function length(shift) {
  let time = minutes(shift.end) - minutes(shift.start);
  if (time <= 0) {
    time += 24 * 60;
  }
  return time > 360 ? time - 30 : time;
}

function totals(shifts) {
  const byName = new Map();
  for (const shift of shifts) {
    byName.set(shift.name, (byName.get(shift.name) ?? 0) + length(shift));
  }
  return byName;
}

function hours(time) {
  const rest = time % 60;
  return `${Math.floor(time / 60)}:${String(rest).padStart(2, "0")}`;
}

function sheet(shifts) {
  const sums = [...totals(shifts)].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
  return sums.map(([name, time]) => `${name} ${hours(time)}`);
}
