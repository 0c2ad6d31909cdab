// What a party pays for the luggage it takes along.
const FREE = 20;
const PER_KILO = 3;
const BULKY = 15;

function overweight(kilos) {
  if (kilos <= FREE) {
    return 0;
  }
  return kilos - FREE;
}

function fee(kilos, bulky) {
  let cost = overweight(kilos) * PER_KILO;
  if (bulky) {
    cost += BULKY;
  }
  return cost;
}

function partyFee(bags) {
  let total = 0;
  for (let i = 0; i < bags.length; i++) {
    total += fee(bags[i].kilos, bags[i].bulky);
  }
  return total;
}
