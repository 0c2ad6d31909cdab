// Breaks an announcement into lines for the board.
function lines(text, width) {
  const out = [];
  let line = "";
  for (const word of text.split(" ")) {
    if (line === "") {
      line = word;
    } else if (line.length + 1 + word.length <= width) {
      line += " " + word;
    } else {
      out.push(line);
      line = word;
    }
  }
  if (line !== "") {
    out.push(line);
  }
  return out;
}

function centred(text, width) {
  const left = Math.floor((width - text.length) / 2);
  return " ".repeat(Math.max(left, 0)) + text;
}

function board(text, width) {
  return lines(text, width).map((line) => centred(line, width));
}
