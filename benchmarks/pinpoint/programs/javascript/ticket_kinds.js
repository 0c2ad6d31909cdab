// The price of a ticket by its kind and the season.
function basePrice(kind) {
  switch (kind) {
    case "single":
      return 8;
    case "return":
      return 14;
    case "week":
      return 40;
    default:
      return 0;
  }
}

function surcharge(day) {
  let extra = 0;
  switch (day) {
    case "sat":
      extra = 2;
      break;
    case "sun":
      extra = 3;
      break;
    default:
      extra = 0;
  }
  return extra;
}

function ticket(kind, day, age) {
  const base = basePrice(kind);
  if (base === 0) {
    return "no such ticket";
  }
  let price = base + surcharge(day);
  if (age < 14 || age >= 65) {
    price = price / 2;
  }
  return price;
}
