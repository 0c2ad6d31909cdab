// Asks for ages one by one; "done" ends it. Tells what each pays.
const readline = require("readline");
const asker = readline.createInterface({ input: process.stdin, output: process.stdout });

const prices = [];

function price(age) {
  if (age < 4) {
    return 0;
  }
  if (age < 16) {
    return 3;
  }
  return 6;
}

function next() {
  asker.question("Age? ", (answer) => {
    if (answer === "done") {
      asker.close();
      finish();
      return;
    }
    prices.push(price(Number(answer)));
    next();
  });
}

function finish() {
  let sum = 0;
  for (const one of prices) {
    sum += one;
  }
  console.log("people:", prices.length);
  console.log("sum:", sum);
}

next();
