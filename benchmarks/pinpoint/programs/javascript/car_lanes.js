// Cars drive aboard: each into the lane that has most room left.
const LANE = 40;

function widest(lanes) {
  let at = 0;
  for (let i = 1; i < lanes.length; i++) {
    if (lanes[i] > lanes[at]) {
      at = i;
    }
  }
  return at;
}

function park(cars, count) {
  const room = new Array(count).fill(LANE);
  const places = [];
  for (const car of cars) {
    const lane = widest(room);
    if (room[lane] < car) {
      places.push(null);
    } else {
      room[lane] -= car;
      places.push(lane + 1);
    }
  }
  return { places, room };
}

function full(cars, count) {
  return park(cars, count).places.includes(null);
}
