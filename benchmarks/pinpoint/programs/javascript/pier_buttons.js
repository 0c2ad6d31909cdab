// The buttons at the pier: each tells how many metres its berth has.
function makeButtons(berths) {
  const buttons = [];
  for (let i = 0; i < berths.length; i++) {
    buttons.push(function () {
      return `berth ${i + 1}: ${berths[i]} m`;
    });
  }
  return buttons;
}

function pressAll(berths) {
  const told = [];
  for (const button of makeButtons(berths)) {
    told.push(button());
  }
  return told;
}

function counter(start) {
  let count = start;
  return {
    up: () => ++count,
    reset: () => {
      count = start;
      return count;
    },
  };
}

function presses(start, times) {
  const one = counter(start);
  for (let i = 0; i < times; i++) {
    one.up();
  }
  const before = one.up();
  return [before, one.reset()];
}
