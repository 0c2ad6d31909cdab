function knots(miles, minutes) {
  return miles / (minutes / 60);
}

function best(runs) {
  let fastest = null;
  for (const run of runs) {
    const speed = knots(run.miles, run.minutes);
    if (fastest === null || speed > fastest.speed) {
      fastest = { boat: run.boat, speed };
    }
  }
  return fastest;
}

function byBoat(runs) {
  const sums = {};
  for (const { boat, miles, minutes } of runs) {
    const sum = (sums[boat] ??= { miles: 0, minutes: 0, runs: 0 });
    sum.miles += miles;
    sum.minutes += minutes;
    sum.runs++;
  }
  return sums;
}

function table(runs) {
  const sums = byBoat(runs);
  return Object.keys(sums)
    .sort((a, b) => sums[b].miles - sums[a].miles || a.localeCompare(b))
    .map((boat) => `${boat} ${sums[boat].runs} ${knots(sums[boat].miles, sums[boat].minutes).toFixed(1)}`);
}

function page(runs) {
  const top = best(runs);
  const lines = table(runs);
  return top ? [...lines, `fastest ${top.boat} ${top.speed.toFixed(1)}`] : ["no runs"];
}
