// harbour.js: the departures of a day in order, and the longest wait between two

function minutes(clock) {
  const [hours, rest] = clock.split(":");
  return Number(hours) * 60 + Number(rest);
}

function inOrder(clocks) {
  return clocks.map(minutes).sort();
}

function longestWait(clocks) {
  const times = inOrder(clocks);
  let longest = 0;
  for (let i = 1; i < times.length; i++) {
    const wait = times[i] - times[i - 1];
    if (wait > longest) {
      longest = wait;
    }
  }
  return longest;
}

const readline = require("readline");
const clocks = [];
const reader = readline.createInterface({ input: process.stdin });
reader.on("line", (line) => {
  if (line.trim() !== "") {
    clocks.push(line.trim());
  }
});
reader.on("close", () => {
  console.log("Departures:", clocks.length);
  console.log("Longest wait:", longestWait(clocks), "minutes");
});
