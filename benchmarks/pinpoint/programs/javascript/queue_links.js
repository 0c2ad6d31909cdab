// The queue at the pier as linked entries.
class Queue {
  constructor() {
    this.first = null;
    this.last = null;
    this.size = 0;
  }

  join(name) {
    const entry = { name, next: null };
    if (this.last === null) {
      this.first = entry;
    } else {
      this.last.next = entry;
    }
    this.last = entry;
    this.size++;
  }

  leave() {
    if (this.first === null) {
      return "nobody";
    }
    const name = this.first.name;
    this.first = this.first.next;
    if (this.first === null) {
      this.last = null;
    }
    this.size--;
    return name;
  }

  names() {
    const found = [];
    let entry = this.first;
    while (entry !== null) {
      found.push(entry.name);
      entry = entry.next;
    }
    return found;
  }
}

function morning(steps) {
  const queue = new Queue();
  const gone = [];
  for (const step of steps) {
    if (step === "-") {
      gone.push(queue.leave());
    } else {
      queue.join(step);
    }
  }
  return { gone, waiting: queue.names(), size: queue.size };
}
