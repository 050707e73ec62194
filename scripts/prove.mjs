// Prints one table: what the readings claim, what simulations show, and whether it holds. Ends with 1 where one does not.
const { proveAll } = await import(new URL('../core/prove/all.ts', import.meta.url).href);

const { proveFaults } = await import(new URL('../demo/prove/proveFaults.ts', import.meta.url).href);

const draws = Number(process.argv[2] ?? 40);
const tell = (/** @type {string} */ words) => console.log(words);
const claims = [...proveAll(draws, tell), ...proveFaults(draws, tell)];
console.log('');
const width = Math.max(...claims.map((/** @type {{ claim: string }} */ { claim }) => claim.length));
for (const { claim, figure, bound, held } of claims)
  console.log(`${claim.padEnd(width)}  ${figure.padStart(7)}  ${bound.padEnd(12)}  ${held ? 'held' : 'NOT HELD'}`);
console.log(
  `\n${claims.filter((/** @type {{ held: boolean }} */ { held }) => held).length} of ${claims.length} held, ${draws} draws of each kind.`,
);
process.exitCode = claims.every((/** @type {{ held: boolean }} */ { held }) => held) ? 0 : 1;
