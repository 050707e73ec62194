import { describe, expect, it } from 'vitest';
import { fixedPredictionsChange } from './predicted.ts';
import { blankStudy, type StudyDefinition, type StudyRecord } from './study.ts';

const LOCKED = '2026-03-02T10:00:00Z';
const old = { id: 'p1', text: '', spotId: 'top', expectedK: -2, plusMinusK: 1 };
const later = { id: 'p2', text: '', variantId: 'pad', spotId: 'top', expectedK: -3, plusMinusK: 1 };

const before = (change: Partial<StudyRecord> = {}): StudyRecord => ({
  ...blankStudy('Pads'),
  id: 's',
  version: 1,
  createdAt: '',
  updatedAt: '',
  predictions: [old],
  predictionLockedAt: LOCKED,
  predictionStamps: { p1: '2026-03-01T10:00:00Z' },
  variantsWithRuns: ['bare'],
  ...change,
});
const after = (predictions: StudyDefinition['predictions']): StudyDefinition => ({ ...blankStudy('Pads'), predictions });

describe('predictions', () => {
  it('are free before the first run', () => {
    expect(fixedPredictionsChange(before({ predictionLockedAt: null }), after([]))).toBe(false);
  });

  it('stand as they were written afterwards, and none comes late of what was run', () => {
    expect(fixedPredictionsChange(before(), after([old]))).toBe(false);
    expect(fixedPredictionsChange(before(), after([]))).toBe(true);
    expect(fixedPredictionsChange(before(), after([{ ...old, expectedK: -4 }]))).toBe(true);
    expect(fixedPredictionsChange(before(), after([old, { ...later, variantId: 'bare' }]))).toBe(true);
    expect(fixedPredictionsChange(before(), after([old, { ...later, variantId: null }]))).toBe(true);
  });

  it('may be written, changed and taken back of a variant that has no runs, until it has', () => {
    const stamped = { predictions: [old, later], predictionStamps: { p1: '2026-03-01T10:00:00Z', p2: '2026-03-05T10:00:00Z' } };
    expect(fixedPredictionsChange(before(), after([old, later]))).toBe(false);
    expect(fixedPredictionsChange(before(stamped), after([old, { ...later, expectedK: -5 }]))).toBe(false);
    expect(fixedPredictionsChange(before(stamped), after([old]))).toBe(false);
    expect(fixedPredictionsChange(before({ ...stamped, variantsWithRuns: ['bare', 'pad'] }), after([old]))).toBe(true);
  });

  it('written before the first run stay fixed, whatever they are about', () => {
    const early = { predictions: [old, later], predictionStamps: { p1: '2026-03-01T10:00:00Z', p2: '2026-03-01T10:00:00Z' } };
    expect(fixedPredictionsChange(before(early), after([old]))).toBe(true);
  });
});
