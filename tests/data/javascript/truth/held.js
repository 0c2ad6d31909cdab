function counter(start) {
  let count = start;
  const log = [];
  function up(by = 1) {
    count += by;
    log.push(count);
    return count;
  }
  const down = () => up(-1);
  return { up, down, log: () => log.slice() };
}
function remember(work) {
  const known = {};
  return function (n) {
    if (!(n in known)) {
      known[n] = work(n);
    }
    const answer = known[n];
    return answer;
  };
}
const pier = counter(5);
const quay = counter(0);
pier.up(2);
quay.up();
pier.down();
const logged = [pier.log(), quay.log()];
let asked = 0;
const square = remember((n) => {
  asked += 1;
  return n * n;
});
const squares = [3, 4, 3].map(square);
const boat = {
  name: "Ida",
  tell() {
    const inner = () => this.name + "!";
    return inner();
  },
};
const told = boat.tell();
const loose = boat.tell.bind({ name: "Eve" });
const other = loose();
(function () {
  const hidden = asked * 2;
  asked = hidden;
})();
console.log(logged, squares, asked, told, other);
