// Asks for a party of travellers and tells what they pay.
const ADULT = 6;
const CHILD = 3;

const adults = Number(prompt("How many adults? "));
const children = Number(prompt("How many children? "));
const people = adults + children;
let total = adults * ADULT + children * CHILD;

if (people >= 10) {
  total = total * 0.9;
}
if (children > adults * 4) {
  console.log("Too many children for so few adults.");
} else {
  console.log("People: " + people);
  console.log("Total: " + total.toFixed(2));
}
