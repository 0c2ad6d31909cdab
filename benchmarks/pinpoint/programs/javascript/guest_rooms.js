class Room {
  constructor(number, beds) {
    this.number = number;
    this.beds = beds;
    this.guests = [];
  }

  free() {
    return this.beds - this.guests.length;
  }
}

class House {
  constructor(beds) {
    this.rooms = beds.map((count, n) => new Room(n + 1, count));
    this.turnedAway = 0;
  }

  arrive(party) {
    let best = null;
    for (const room of this.rooms) {
      if (room.free() >= party.length) {
        if (best === null || room.free() < best.free()) {
          best = room;
        }
      }
    }
    if (best === null) {
      this.turnedAway += party.length;
      return 0;
    }
    best.guests.push(...party);
    return best.number;
  }

  leave(guest) {
    for (const room of this.rooms) {
      const place = room.guests.indexOf(guest);
      if (place >= 0) {
        room.guests.splice(place, 1);
        return true;
      }
    }
    return false;
  }
}

function weekend(beds, events) {
  const house = new House(beds);
  const told = events.map(([what, who]) =>
    what === "+" ? house.arrive(who.split(" ")) : house.leave(who),
  );
  const free = house.rooms.map((room) => room.free());
  return [told, free, house.turnedAway];
}
