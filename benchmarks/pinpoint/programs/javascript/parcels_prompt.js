// Parcels are typed in until an empty answer; tells the heaviest and the sum.
let heaviest = 0;
let sum = 0;
let count = 0;

while (true) {
  const answer = prompt("Weight: ");
  if (answer === "" || answer === null) {
    break;
  }
  const weight = parseFloat(answer);
  if (weight <= 0) {
    console.log("A parcel weighs something.");
    continue;
  }
  count++;
  sum += weight;
  if (weight > heaviest) {
    heaviest = weight;
  }
}

if (count === 0) {
  console.log("no parcels");
} else {
  console.log(`${count} parcels, ${sum} kg`);
  console.log(`heaviest: ${heaviest}`);
}
