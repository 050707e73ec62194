import { line, share, type Claim } from '@red-ember/core/prove/claim';
import { FAULTS } from '@red-ember/rig';
import { BENCHES, findFaults, type BenchFound } from './faults.ts';

/** Seeds that nothing was written by. */
const FIRST_SEED = 5000;

/** A table of what was found, bench by bench, for whoever wants to see where it was missed. */
const rowsOf = ({ family, faults, alarms }: BenchFound): string[] => [
  `${family}: ${alarms.early} and ${alarms.atEnd} of ${alarms.of} clean runs suspected, after ten minutes of load and at its end`,
  ...faults.map(({ fault, of, early, atEnd }) => `  ${fault.padEnd(18)} ${early} and ${atEnd} of ${of}`),
];

/** Claims about faults that are planted in the simulated benches. @param draws of each fault and bench */
export function proveFaults(draws: number, tell?: (words: string) => void): Claim[] {
  const seeds = Array.from({ length: draws }, (_, i) => FIRST_SEED + i);
  const all = BENCHES.map((bench) => findFaults(bench, seeds));
  all.flatMap(rowsOf).forEach((row) => tell?.(row));
  const sum = (counts: readonly number[]) => counts.reduce((total, count) => total + count, 0);
  const faults = all.flatMap((bench) => bench.faults);
  const keys = [...new Set(faults.map(({ fault }) => fault))];
  const found = (key: (typeof keys)[number], look: 'early' | 'atEnd') => {
    const of = faults.filter(({ fault }) => fault === key);
    return share(sum(of.map((each) => each[look])), sum(of.map((each) => each.of)));
  };
  const alarms = (look: 'early' | 'atEnd') => share(sum(all.map((each) => each.alarms[look])), sum(all.map((each) => each.alarms.of)));
  return [
    // Somebody warms the room after the first minutes of load: before that there is nothing to be seen.
    ...keys
      .filter((key) => key !== 'room-drift')
      .map((key) => line(`First two suspects of ten minutes of load: ${FAULTS[key].replace(/:.*/, '')}`, found(key, 'early'), 0.9, 1)),
    line('The same at the end of the load: the room warms', found('room-drift', 'atEnd'), 0.9, 1),
    line('The same at the end of the load, every fault', Math.min(...keys.map((key) => found(key, 'atEnd'))), 0.9, 1),
    line('Clean runs of which something is suspected, after ten minutes of load', alarms('early'), 0, 0.05),
    line('The same at the end of the load', alarms('atEnd'), 0, 0.05),
  ];
}
