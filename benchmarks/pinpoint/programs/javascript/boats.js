// Boats of two kinds: what they carry and what a trip costs.
class Boat {
  constructor(name, seats) {
    this.name = name;
    this.seats = seats;
    this.trips = 0;
  }

  trip(people) {
    this.trips += 1;
    return Math.min(people, this.seats);
  }

  cost() {
    return this.trips * 10;
  }
}

class CarFerry extends Boat {
  constructor(name, seats, cars) {
    super(name, seats);
    this.cars = cars;
  }

  trip(people, cars = 0) {
    const taken = super.trip(people);
    return taken + Math.min(cars, this.cars);
  }

  cost() {
    return super.cost() + this.trips * this.cars * 2;
  }
}

function day(trips) {
  const boat = new CarFerry("Ida", 20, 3);
  let carried = 0;
  for (const [people, cars] of trips) {
    carried += boat.trip(people, cars);
  }
  return [carried, boat.cost()];
}

function walk(trips) {
  const boat = new Boat("Eve", 8);
  const carried = trips.map((people) => boat.trip(people));
  return { carried, cost: boat.cost() };
}
