class Vessel {
  #log = [];
  static made = 0;
  constructor(name, seats = 4) {
    this.name = name;
    this.seats = seats;
    Vessel.made += 1;
  }
  get free() {
    return this.seats - this.#log.length;
  }
  set crew(count) {
    const rest = this.seats - count;
    this.seats = rest;
  }
  board(...people) {
    for (const one of people) {
      if (this.free <= 0) {
        break;
      }
      this.#log.push(one);
    }
    return this;
  }
  toString() {
    const list = this.#log.join("+");
    return `${this.name}[${list}]`;
  }
}
class Ferry extends Vessel {
  cars = [];
  constructor(name) {
    super(name, 3);
    this.deck = { left: 2 };
  }
  board(people, car) {
    super.board(...people);
    if (car && this.deck.left > 0) {
      this.deck.left--;
      this.cars.push(car);
    }
    return this;
  }
}
const ida = new Ferry("Ida");
ida.crew = 1;
const told = ida.board(["Una", "Bo", "Tor"], "van").board([], "cart").board([], "bus").toString();
const eve = new Vessel("Eve");
eve.board("Pia");
console.log(told, ida.deck.left, ida.cars, String(eve), Vessel.made, eve.free);
