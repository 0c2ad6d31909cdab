// A receipt with its amounts in a column.
function money(cents) {
  const euros = Math.floor(cents / 100);
  const rest = cents % 100;
  return euros + "." + String(rest).padStart(2, "0");
}

function line(name, cents) {
  return name.padEnd(10, ".") + money(cents).padStart(8, ".");
}

function receipt(items) {
  const lines = [];
  let sum = 0;
  for (const [name, cents] of items) {
    lines.push(line(name, cents));
    sum += cents;
  }
  lines.push("=".repeat(18));
  lines.push(line("sum", sum));
  return lines.join("\n");
}
