// Numbers of sailings, made one after another.
function* numbers(first, step) {
  let number = first;
  while (true) {
    yield number;
    number += step;
  }
}

function take(count, first, step) {
  const out = [];
  for (const number of numbers(first, step)) {
    if (out.length === count) {
      break;
    }
    out.push(number);
  }
  return out;
}

function* every(list, nth) {
  for (let i = 0; i < list.length; i += nth) {
    yield list[i];
  }
}

function named(list, nth) {
  return [...every(list, nth)].map((item, place) => `${place + 1}. ${item}`);
}
