// Who steers on which day: the crew takes turns, and nobody steers on a day off.
function steers(crew, day) {
  return crew[day % crew.length];
}

function rota(crew, days, off) {
  const plan = [];
  let turn = 0;
  for (let day = 0; day < days; day++) {
    if (off.includes(day)) {
      plan.push("-");
    } else {
      plan.push(steers(crew, turn));
      turn++;
    }
  }
  return plan;
}

function shares(plan) {
  const count = {};
  for (const name of plan) {
    if (name === "-") {
      continue;
    }
    count[name] = (count[name] ?? 0) + 1;
  }
  return count;
}
