// Signals from the lighthouse, written shorter: "aaab" is "3a1b".
function shorter(signal) {
  let out = "";
  let count = 0;
  for (let i = 0; i < signal.length; i++) {
    count++;
    if (signal[i] !== signal[i + 1]) {
      out += count + signal[i];
      count = 0;
    }
  }
  return out;
}

function longer(short) {
  let out = "";
  let digits = "";
  for (const sign of short) {
    if (sign >= "0" && sign <= "9") {
      digits += sign;
    } else {
      out += sign.repeat(Number(digits));
      digits = "";
    }
  }
  return out;
}
