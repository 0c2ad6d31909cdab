// Days of the season: leap years, and days between two dates of one year.
const DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

function isLeap(year) {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

function daysIn(month, year) {
  if (month === 2 && isLeap(year)) {
    return 29;
  }
  return DAYS[month - 1];
}

function dayOfYear(day, month, year) {
  let total = day;
  for (let m = 1; m < month; m++) {
    total += daysIn(m, year);
  }
  return total;
}

function season(from, to, year) {
  return dayOfYear(to.day, to.month, year) - dayOfYear(from.day, from.month, year) + 1;
}
