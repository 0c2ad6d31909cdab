// How many people came each hour, drawn with signs.
const input = require("fs").readFileSync(0, "utf8");
const hours = {};
for (const line of input.split("\n")) {
  if (line === "") {
    continue;
  }
  const hour = Number(line.split(":")[0]);
  hours[hour] = (hours[hour] || 0) + 1;
}

let busiest = null;
for (let hour = 6; hour <= 20; hour++) {
  const people = hours[hour] || 0;
  if (people > 0) {
    console.log(String(hour).padStart(2, " ") + " " + "#".repeat(people));
  }
  if (busiest === null || people > (hours[busiest] || 0)) {
    busiest = hour;
  }
}
console.log("busiest: " + busiest);
