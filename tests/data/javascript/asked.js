const readline = require('readline/promises');
const { stdin: input, stdout: output } = require('process');
async function main() {
  const rl = readline.createInterface({ input, output });
  const first = await rl.question('First? ');
  await new Promise(r => setTimeout(r, 5));
  const second = await rl.question('Second? ');
  console.log([first, second]);
  rl.close();
}
main();
