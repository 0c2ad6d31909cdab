// Which seats are taken, and which are left for a group that wants to sit together.
function taken(bookings) {
  const seats = new Set();
  for (const booking of bookings) {
    for (let seat = booking.from; seat <= booking.to; seat++) {
      seats.add(seat);
    }
  }
  return seats;
}

function left(bookings, size) {
  const gone = taken(bookings);
  const free = [];
  for (let seat = 1; seat <= size; seat++) {
    if (!gone.has(seat)) {
      free.push(seat);
    }
  }
  return free;
}

function together(bookings, size, group) {
  const free = left(bookings, size);
  for (let i = 0; i + group <= free.length; i++) {
    if (free[i + group - 1] - free[i] === group - 1) {
      return free[i];
    }
  }
  return -1;
}
