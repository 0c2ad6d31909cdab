// luggage.js: what the luggage of a party costs, and the heaviest piece

const FREE = 10;

function cost(kilos) {
  if (kilos <= FREE) {
    return 0;
  }
  return (kilos - FREE) * 2;
}

const pieces = Number(prompt("How many pieces? "));
let total = 0;
let heaviest = 0;
for (let i = 0; i < pieces; i++) {
  const kilos = prompt("Kilos? ");
  total += cost(kilos);
  if (kilos > heaviest) {
    heaviest = kilos;
  }
}
console.log("To pay:", total);
console.log(`Heaviest: ${heaviest} kilos`);
