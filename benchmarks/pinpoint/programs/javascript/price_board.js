const RATES = new Map([["adult", 6], ["child", 3], ["bike", 2.5]]);

class Basket {
  #lines = new Map();

  add(kind, count = 1) {
    if (!RATES.has(kind)) {
      return false;
    }
    this.#lines.set(kind, (this.#lines.get(kind) ?? 0) + count);
    return true;
  }

  get people() {
    let sum = 0;
    for (const [kind, count] of this.#lines) {
      if (kind !== "bike") {
        sum += count;
      }
    }
    return sum;
  }

  get total() {
    let sum = 0;
    for (const [kind, count] of this.#lines) {
      sum += RATES.get(kind) * count;
    }
    return this.people >= 5 ? sum * 0.9 : sum;
  }
}

function board(orders) {
  const unknown = [];
  const basket = new Basket();
  for (const order of orders) {
    const [kind, count] = order.split(" ");
    if (!basket.add(kind, Number(count ?? 1))) {
      unknown.push(kind);
    }
  }
  return `${basket.people} for ${basket.total.toFixed(2)}${unknown.length ? ", not known: " + unknown.join(" ") : ""}`;
}
