function counter(start, step = 1) {
  let now = start;
  return {
    next: () => {
      now += step;
      return now;
    },
    reset: () => {
      now = start;
    },
  };
}

function makeBells(hours) {
  const bells = [];
  for (let hour = 0; hour < hours; hour++) {
    bells.push(() => ((hour - 1) % 4) + 1);
  }
  return bells;
}

function memo(work) {
  const known = {};
  return (n) => {
    if (!(n in known)) {
      known[n] = work(n);
    }
    return known[n];
  };
}

function rings(hours) {
  return makeBells(hours + 1).slice(1).map((bell) => bell());
}

function count(start, moves) {
  const tally = counter(start, 2);
  const seen = [];
  for (const move of moves) {
    if (move === "r") {
      tally.reset();
    } else {
      seen.push(tally.next());
    }
  }
  return seen;
}

function squares(list) {
  let calls = 0;
  const square = memo((n) => {
    calls++;
    return n * n;
  });
  return [list.map((n) => square(n)), calls];
}
