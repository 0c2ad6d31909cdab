function shift(text, by) {
  let out = "";
  for (const letter of text) {
    const code = letter.charCodeAt(0);
    if (letter >= "a" && letter <= "z") {
      out += String.fromCharCode(((code - 97 + by + 26) % 26) + 97);
    } else {
      out += letter;
    }
  }
  return out;
}

function squeeze(text) {
  let out = "";
  let run = 1;
  for (let i = 0; i < text.length; i++) {
    if (text[i] === text[i + 1]) {
      run++;
    } else {
      out += run > 1 ? text[i] + run : text[i];
      run = 1;
    }
  }
  return out;
}

function commonest(text) {
  const counts = new Map();
  for (const letter of text.toLowerCase()) {
    if (letter === " ") {
      continue;
    }
    counts.set(letter, (counts.get(letter) ?? 0) + 1);
  }
  let best = "";
  for (const [letter, n] of counts) {
    if (best === "" || n > counts.get(best) || (n === counts.get(best) && letter < best)) {
      best = letter;
    }
  }
  return best;
}

function all(text, by) {
  return [shift(text, by), squeeze(text), commonest(text)];
}
