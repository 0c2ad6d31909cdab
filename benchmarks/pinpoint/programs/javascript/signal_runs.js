function pack(signal) {
  let packed = "";
  let count = 1;
  for (let place = 1; place < signal.length; place++) {
    if (signal[place] === signal[place - 1]) {
      count += 1;
    } else {
      packed += signal[place - 1] + count;
      count = 1;
    }
  }
  if (signal.length > 0) {
    packed += signal[signal.length - 1] + count;
  }
  return packed;
}

function unpack(packed) {
  let signal = "";
  let letter = "";
  let number = "";
  for (const sign of packed) {
    if (sign >= "0" && sign <= "9") {
      number += sign;
    } else {
      signal += letter.repeat(Number(number));
      letter = sign;
      number = "";
    }
  }
  return signal + letter.repeat(Number(number));
}

function thereAndBack(signal) {
  const packed = pack(signal);
  return [packed, unpack(packed)];
}
