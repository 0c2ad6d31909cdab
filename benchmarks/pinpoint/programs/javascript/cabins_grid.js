// Who sleeps where on the night boat: decks are rows, cabins are places in them.
function emptyBoat(decks, cabins) {
  const boat = [];
  for (let d = 0; d < decks; d++) {
    const row = [];
    for (let c = 0; c < cabins; c++) {
      row.push(".");
    }
    boat.push(row);
  }
  return boat;
}

function book(boat, deck, cabin, name) {
  if (boat[deck][cabin] !== ".") {
    return false;
  }
  boat[deck][cabin] = name;
  return true;
}

function free(boat) {
  let count = 0;
  for (const row of boat) {
    for (const cabin of row) {
      if (cabin === ".") {
        count++;
      }
    }
  }
  return count;
}

function night(decks, cabins, wishes) {
  const boat = emptyBoat(decks, cabins);
  const refused = [];
  for (const [deck, cabin, name] of wishes) {
    if (!book(boat, deck, cabin, name)) {
      refused.push(name);
    }
  }
  return { free: free(boat), refused, rows: boat.map((row) => row.join("")) };
}
