// Looks a sailing up in a sorted timetable, halving it each time.
function find(times, wanted) {
  let low = 0;
  let high = times.length - 1;
  while (low <= high) {
    const middle = Math.floor((low + high) / 2);
    if (times[middle] === wanted) {
      return middle;
    }
    if (times[middle] < wanted) {
      low = middle + 1;
    } else {
      high = middle - 1;
    }
  }
  return -1;
}

function before(times, wanted) {
  let count = 0;
  while (count < times.length && times[count] < wanted) {
    count++;
  }
  return count;
}
