'use strict';
const readline = require('readline');
const rl = readline.createInterface({ input: process.stdin, output: process.stdout });
let total = 0;
const seats = { Ada: 2 };
rl.on('line', line => { const [n, m] = line.split(' '); seats[n] = (seats[n] || 0) + Number(m); total += Number(m); }).on('close', () => { console.log(total, seats); console.log(undefinedName) });
