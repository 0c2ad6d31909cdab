// Bearings of the compass, kept from 0 to 359.
function kept(degrees) {
  return ((degrees % 360) + 360) % 360;
}

function turn(from, to) {
  let difference = kept(to - from);
  if (difference > 180) {
    difference -= 360;
  }
  return difference;
}

function name(degrees) {
  const names = ["N", "E", "S", "W"];
  return names[Math.round(kept(degrees) / 90) % 4];
}

function course(start, turns) {
  let heading = start;
  const logged = turns.map((by) => {
    heading = kept(heading + by);
    return name(heading);
  });
  return { heading, logged };
}
