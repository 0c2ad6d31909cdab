// The rowing race: places by time, the same place for the same time.
function ranking(times) {
  const order = Object.entries(times).sort((a, b) => a[1] - b[1]);
  const places = {};
  let place = 0;
  let last = null;
  order.forEach(([boat, time], index) => {
    if (time !== last) {
      place = index + 1;
      last = time;
    }
    places[boat] = place;
  });
  return places;
}

function winners(times) {
  const places = ranking(times);
  return Object.keys(places).filter((boat) => places[boat] === 1);
}

function behind(times, boat) {
  const best = Math.min(...Object.values(times));
  return times[boat] - best;
}
