// The discount for a group: by its size, and once more for the island's own people.
function rate(people) {
  if (people >= 30) {
    return 0.2;
  } else if (people >= 10) {
    return 0.1;
  } else if (people >= 5) {
    return 0.05;
  }
  return 0;
}

function price(people, each, islanders) {
  let total = people * each;
  total -= total * rate(people);
  if (islanders) {
    total -= 2 * people;
  }
  return Math.max(total, 0);
}

function cheapest(offers) {
  let best = null;
  for (const offer of offers) {
    const cost = price(offer.people, offer.each, false);
    if (best === null || cost < best.cost) {
      best = { name: offer.name, cost };
    }
  }
  return best && best.name;
}
