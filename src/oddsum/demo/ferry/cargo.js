// cargo.js: what is charged for a load, by its kind

class Bill {
  constructor() {
    this.lines = [];
    this.total = 0;
  }

  add(kind, tons) {
    let price = 0;
    switch (kind) {
      case "grain":
        price = tons * 4;
        break;
      case "timber":
        price = tons * 7;
        if (tons > 10) {
          price -= 5;
        }
      case "fish":
        price += 12;
        break;
      default:
        return false;
    }
    this.lines.push(`${kind}: ${price}`);
    this.total += price;
    return true;
  }
}

function charge(loads) {
  const bill = new Bill();
  const known = loads.filter(([kind, tons]) => bill.add(kind, tons));
  return { total: bill.total, lines: bill.lines, left: loads.length - known.length };
}
