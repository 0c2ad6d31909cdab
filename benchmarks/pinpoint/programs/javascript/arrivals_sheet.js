function minutes(clock) {
  const [hours, mins] = clock.split(":");
  return Number(hours) * 60 + Number(mins);
}

function clock(total) {
  total = total % (24 * 60);
  const hours = Math.floor(total / 60);
  return `${String(hours).padStart(2, "0")}:${String(total % 60).padStart(2, "0")}`;
}

function between(first, last) {
  let gap = minutes(last) - minutes(first);
  if (gap < 0) {
    gap += 24 * 60;
  }
  return gap;
}

function longestWait(times) {
  let longest = 0;
  for (let n = 0; n < times.length - 1; n++) {
    const wait = between(times[n], times[n + 1]);
    if (wait > longest) {
      longest = wait;
    }
  }
  return longest;
}

function sheet(times, takes) {
  const lines = times.map((t) => `${t} ${clock(minutes(t) + takes)}`);
  lines.push(`longest wait ${longestWait(times)}`);
  return lines;
}
