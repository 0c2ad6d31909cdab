// Which coins are given back at the ticket window.
const COINS = [200, 100, 50, 20, 10];

function change(paid, cost) {
  let rest = paid - cost;
  const given = [];
  for (const coin of COINS) {
    while (rest >= coin) {
      given.push(coin);
      rest -= coin;
    }
  }
  return given;
}

function fewest(amounts) {
  return amounts.map((amount) => change(amount, 0).length);
}

function told(paid, cost) {
  if (paid < cost) {
    return "not enough";
  }
  const coins = change(paid, cost);
  return coins.length === 0 ? "nothing back" : coins.join(" + ");
}
