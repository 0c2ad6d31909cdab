function toMinutes(clock) {
  const [hours, minutes] = clock.split(":").map(Number);
  return hours * 60 + minutes;
}

function toClock(total) {
  const day = ((total % 1440) + 1440) % 1440;
  const hours = Math.floor(day / 60);
  return `${hours}:${String(day % 60).padStart(2, "0")}`;
}

function sailings(first, last, every) {
  const times = [];
  for (let t = toMinutes(first); t <= toMinutes(last); t += every) {
    times.push(t);
  }
  return times;
}

function next(times, now) {
  return times.find((t) => t >= now) ?? times[0] + 1440;
}

function trip(start, legs) {
  let now = toMinutes(start);
  const log = [];
  for (const { first, last, every, takes } of legs) {
    const leaves = next(sailings(first, last, every), now);
    log.push(`${toClock(leaves)} after ${leaves - now}`);
    now = leaves + takes;
  }
  log.push(toClock(now));
  return log;
}
