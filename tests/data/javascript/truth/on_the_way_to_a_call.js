class Berth {
  constructor(boats) {
    this.boats = boats;
    this.told = [];
  }

  tell(boat) {
    const count = this.boats.length;
    this.told.push([boat, count]);
    return count;
  }
}

function length(boats, extra) {
  let count = boats.length;
  for (const boat of boats) {
    count += extra;
  }
  return count;
}

const queue = ["Tern", "Auk", "Gull", "Skua", "Ruff", "Knot"];
console.log(length(queue, queue.shift().length));
console.log(queue.pop() + String(length(queue, 1)));
const berth = new Berth(queue);
console.log(`now ${queue[0]}: ${berth.tell(berth.boats.shift())}`);
console.log([1, 2].map(() => length(queue, 2) + queue.pop().length));
const prices = new Map([["day", [3, 1, 2]]]);
console.log(length([...prices.keys()], prices.delete("day") ? 1 : 0), length(queue, prices.set("week", 1).size));
