import { expect, it } from 'vitest';
import { predictionRecord } from '../../index.ts';

it('counts what could be told, and how far off it was', () => {
  const record = predictionRecord([
    { outcome: 'right', errorK: 0.5 },
    { outcome: 'missed', errorK: 4.5 },
    { outcome: 'missed', errorK: -2 },
    { outcome: 'open', errorK: 9 },
    { outcome: 'open', errorK: null },
  ]);
  expect(record).toMatchObject({ right: 1, missed: 2, open: 2 });
  expect(record.shareRight).toBeCloseTo(1 / 3, 12);
  expect(record.meanErrorK).toBeCloseTo(7 / 3, 12);
  expect(record.biasK).toBeCloseTo(1, 12);
});
it('claims nothing without a scored prediction', () => {
  expect(predictionRecord([])).toEqual({ right: 0, missed: 0, open: 0, shareRight: null, meanErrorK: null, biasK: null });
});
