// How much fuel a week of crossings takes.
const PER_MILE = 2.5;
const RESERVE = 0.1;

function dayUse(trips) {
  return trips.reduce((sum, miles) => sum + miles * PER_MILE, 0);
}

function weekUse(week) {
  return week.map(dayUse).reduce((sum, use) => sum + use, 0);
}

function order(week, tank) {
  const need = weekUse(week) * (1 + RESERVE);
  if (need <= tank) {
    return 0;
  }
  return Math.ceil(need - tank);
}

function longestDay(week) {
  let best = 0;
  week.forEach((trips, day) => {
    if (trips.length > week[best].length) {
      best = day;
    }
  });
  return best + 1;
}
