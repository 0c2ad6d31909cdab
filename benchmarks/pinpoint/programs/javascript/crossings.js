// How many crossings until nobody waits at the pier.
function crossings(waiting, seats, arriving) {
  let trips = 0;
  let left = waiting;
  while (left > 0) {
    left -= seats;
    trips += 1;
    if (trips < 3) {
      left += arriving;
    }
  }
  return trips;
}

function lastLoad(waiting, seats) {
  if (waiting === 0) {
    return 0;
  }
  const rest = waiting % seats;
  return rest === 0 ? seats : rest;
}

function empty(waiting, seats) {
  return crossings(waiting, seats, 0) * seats - waiting;
}
