// Which days are cheap, and what is saved by going then.
function cheapDays(prices, limit) {
  return prices
    .map((price, day) => ({ price, day }))
    .filter((entry) => entry.price < limit)
    .map((entry) => entry.day);
}

function saved(prices, limit) {
  const cheap = cheapDays(prices, limit);
  let sum = 0;
  for (const day of cheap) {
    sum += limit - prices[day];
  }
  return sum;
}

function best(prices) {
  const lowest = Math.min(...prices);
  return prices.indexOf(lowest);
}
