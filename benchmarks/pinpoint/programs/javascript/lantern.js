// The lantern at the end of the pier: it remembers how often it was lit.
class Lantern {
  constructor(name) {
    this.name = name;
    this.lit = 0;
    this.on = false;
  }

  toggle() {
    this.on = !this.on;
    if (this.on) {
      this.lit += 1;
    }
  }

  each(times) {
    times.forEach((time) => {
      if (time > 17 || time < 6) {
        this.lit += 1;
      }
    });
    return this.lit;
  }

  tell() {
    return `${this.name} ${this.on ? "shines" : "is dark"} (${this.lit})`;
  }
}

function evening(name, toggles, times) {
  const lantern = new Lantern(name);
  for (let i = 0; i < toggles; i++) {
    lantern.toggle();
  }
  lantern.each(times);
  return lantern.tell();
}
