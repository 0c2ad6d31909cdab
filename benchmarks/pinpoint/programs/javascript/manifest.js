// The manifest of a cargo boat: what is aboard, and whether more may come.
class Manifest {
  constructor(limit) {
    this.limit = limit;
    this.items = [];
    this.weight = 0;
  }

  load(name, kilos) {
    if (this.weight + kilos > this.limit) {
      return false;
    }
    this.items.push({ name, kilos });
    this.weight += kilos;
    return true;
  }

  unload(name) {
    const at = this.items.findIndex((item) => item.name === name);
    if (at === -1) {
      return 0;
    }
    const [gone] = this.items.splice(at, 1);
    this.weight -= gone.kilos;
    return gone.kilos;
  }

  heaviest() {
    let most = this.items[0];
    for (const item of this.items) {
      if (item.kilos > most.kilos) {
        most = item;
      }
    }
    return most.name;
  }
}

function story(limit, steps) {
  const manifest = new Manifest(limit);
  const told = [];
  for (const [what, name, kilos] of steps) {
    if (what === "load") {
      told.push(manifest.load(name, kilos));
    } else {
      told.push(manifest.unload(name));
    }
  }
  return { told, weight: manifest.weight, left: manifest.items.length };
}

function top(steps) {
  const manifest = new Manifest(1000);
  for (const [name, kilos] of steps) {
    manifest.load(name, kilos);
  }
  return manifest.heaviest();
}
