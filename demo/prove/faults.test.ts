import { expect, it } from 'vitest';
import { BENCHES, findFaults } from './faults.ts';

// Two of each: `npm run prove` plants each forty times over.
it.each(BENCHES)(
  'a fault is among the first two suspects of a run, mostly within ten minutes of load, and a clean run suspects nothing: $family',
  (bench) => {
    const { faults, alarms } = findFaults(bench, [40, 41]);
    const all = faults.reduce((sum, { of }) => sum + of, 0);
    const found = (look: 'early' | 'atEnd') => faults.reduce((sum, each) => sum + each[look], 0) / all;
    expect(all).toBeGreaterThan(10);
    expect(found('atEnd')).toBeGreaterThanOrEqual(0.9);
    // A room that is warmed later is among them.
    expect(found('early')).toBeGreaterThanOrEqual(0.8);
    expect(alarms).toMatchObject({ early: 0, atEnd: 0 });
  },
  1_200_000,
);
