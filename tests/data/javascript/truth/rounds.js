function rounds(n) {
  const made = [];
  let out = "";
  for (let i = 0; i < n; i++) {
    const twice = i * 2;
    made.push(() => {
      const sum = i + twice;
      return sum;
    });
    out += made[0]();
    out += i;
  }
  return out;
}
console.log(rounds(3));
for (const k of ["a", "b"]) {
  setTimeout(() => {
    const told = k + "!";
    console.log(told);
  }, 1);
}
