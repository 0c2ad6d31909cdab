// The departures of two piers in one list.
function merged(north, south) {
  const out = [];
  let i = 0;
  let j = 0;
  while (i < north.length && j < south.length) {
    if (north[i] <= south[j]) {
      out.push("N" + north[i]);
      i++;
    } else {
      out.push("S" + south[j]);
      j++;
    }
  }
  while (i < north.length) {
    out.push("N" + north[i]);
    i++;
  }
  while (j < south.length) {
    out.push("S" + south[j]);
    j++;
  }
  return out;
}
