// Prices of the season: the summer list is made from the winter list, which stays as it is.
const WINTER = { adult: 6, child: 3, car: 20 };

function summer(winter, extra) {
  const list = { ...winter };
  for (const kind of Object.keys(list)) {
    list[kind] += extra;
  }
  return list;
}

function both(extra) {
  const warm = summer(WINTER, extra);
  const rows = [];
  for (const [kind, price] of Object.entries(WINTER)) {
    rows.push(`${kind} ${price} ${warm[kind]}`);
  }
  return rows;
}

function cheapest(list) {
  const [first] = Object.entries(list).sort(([, a], [, b]) => a - b);
  return first[0];
}

function late(rows, day) {
  const left = rows.slice();
  while (left.length > 0 && left[0].day < day) {
    left.shift();
  }
  return [left.length, rows.length];
}
