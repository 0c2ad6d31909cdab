const PRICES = new Map([["rope", 4], ["lamp", 12.5], ["net", 7.25]]);

class Basket {
  constructor(member = false) {
    this.member = member;
    this.lines = [];
  }

  add(name, amount = 1) {
    const line = this.lines.find((l) => l.name === name);
    if (line) {
      line.amount += amount;
    } else {
      this.lines.push({ name, amount });
    }
    return this;
  }

  total() {
    let sum = 0;
    for (const line of this.lines) {
      sum += (PRICES.get(line.name) ?? 0) * line.amount;
    }
    if (this.member && sum >= 20) {
      sum *= 0.9;
    }
    return Math.round(sum * 100) / 100;
  }

  told() {
    const names = this.lines.map((l) => `${l.amount} ${l.name}`).sort();
    return `${names.join(", ")}: ${this.total().toFixed(2)}`;
  }
}

function buy(member, wanted) {
  const basket = new Basket(member);
  for (const [name, amount] of wanted) {
    basket.add(name, amount);
  }
  return basket.told();
}
