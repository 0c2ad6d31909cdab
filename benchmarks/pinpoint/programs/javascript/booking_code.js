// Booking codes carry a check digit, so that a slip of the pen is seen.
function checkDigit(number) {
  let sum = 0;
  let weight = 2;
  for (let i = number.length - 1; i >= 0; i--) {
    sum += Number(number[i]) * weight;
    weight = weight === 7 ? 2 : weight + 1;
  }
  return (11 - (sum % 11)) % 11;
}

function code(number) {
  const digit = checkDigit(number);
  return number + (digit === 10 ? "X" : digit);
}

function isValid(text) {
  const number = text.slice(0, -1);
  return code(number) === text;
}
