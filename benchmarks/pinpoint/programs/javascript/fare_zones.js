const ZONES = { Pier: 1, Mill: 2, Fort: 3, Cape: 5 };

function zones(from, to) {
  return Math.abs(ZONES[from] - ZONES[to]) + 1;
}

function fare(trip) {
  const base = 2 + (zones(trip.from, trip.to) - 1) * 1.5;
  if (trip.age < 6) {
    return 0;
  }
  if (trip.age < 16 || trip.age >= 65) {
    return base / 2;
  }
  return base;
}

function week(trips) {
  let sum = 0;
  const paid = {};
  for (const trip of trips) {
    const cost = fare(trip);
    const day = paid[trip.day] ?? 0;
    const due = Math.max(0, Math.min(cost, 8 - day));
    paid[trip.day] = day + due;
    sum += due;
  }
  return { sum, days: Object.keys(paid).length };
}

function receipt(trips) {
  const { sum, days } = week(trips);
  return `${trips.length} trips on ${days} days: ${sum.toFixed(2)}`;
}
