function differ(a, b) {
  let count = 0;
  for (let i = 0; i < a.length; i++) {
    if (a[i] !== b[i]) {
      count++;
    }
  }
  return count;
}

function near(word, words) {
  return words.filter((w) => w.length === word.length && differ(w, word) === 1);
}

function ladder(from, to, words) {
  const seen = new Set([from]);
  let paths = [[from]];
  while (paths.length > 0) {
    const longer = [];
    for (const path of paths) {
      const end = path[path.length - 1];
      if (end === to) {
        return path;
      }
      for (const step of near(end, words)) {
        if (!seen.has(step)) {
          seen.add(step);
          longer.push([...path, step]);
        }
      }
    }
    paths = longer;
  }
  return null;
}

function told(from, to, words) {
  const path = ladder(from, to, words);
  return path === null ? "no way" : `${path.length - 1}: ${path.join(" ")}`;
}
