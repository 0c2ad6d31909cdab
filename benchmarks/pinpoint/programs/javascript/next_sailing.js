// The next ferry after a time of the day, as "HH:MM".
function minutes(text) {
  const parts = text.split(":");
  return Number(parts[0]) * 60 + Number(parts[1]);
}

function clock(total) {
  const hours = Math.floor(total / 60);
  const rest = total % 60;
  return String(hours).padStart(2, "0") + ":" + String(rest).padStart(2, "0");
}

function nextSailing(table, now) {
  const wanted = minutes(now);
  for (const sailing of table) {
    if (minutes(sailing) >= wanted) {
      return sailing;
    }
  }
  return "tomorrow";
}

function wait(table, now) {
  const next = nextSailing(table, now);
  if (next === "tomorrow") {
    return null;
  }
  return clock(minutes(next) - minutes(now));
}
