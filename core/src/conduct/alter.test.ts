import { describe, expect, it } from 'vitest';
import { handValue, withIntervention, withMoreTime, withPause, type RecipePhase } from '../index.ts';

const phase = (name: string, change: Partial<RecipePhase> = {}): RecipePhase => ({
  kind: 'load',
  name,
  mode: 'fixed',
  durationS: 600,
  capS: 600,
  loadPercent: 100,
  ...change,
});
const recipe = [phase('Idle', { kind: 'idle-soak', loadPercent: 0 }), phase('Load'), phase('Cool', { kind: 'cool-down', loadPercent: 0 })];
const names = (phases: RecipePhase[]) => phases.map(({ name }) => name);

describe('a recipe that is changed on the way', () => {
  it('takes an intervention after the present phase, and leaves the rest', () => {
    expect(names(withIntervention(recipe, 1, phase('Vent blocked')))).toEqual(['Idle', 'Load', 'Vent blocked', 'Cool']);
  });
  it('pauses without load and then does the phase again, whole', () => {
    const paused = withPause(recipe, 1);
    expect(names(paused)).toEqual(['Idle', 'Load', 'Pause', 'Load, again', 'Cool']);
    expect(paused[2]).toMatchObject({ kind: 'pause', loadPercent: 0 });
    expect(paused[3]).toEqual({ ...recipe[1], name: 'Load, again' });
    expect(names(withPause(paused, 3))[5]).toBe('Load, again');
  });
  it('gives a fixed phase more length and a waiting one a later cap', () => {
    expect(withMoreTime(recipe, 1, 300)[1]).toMatchObject({ durationS: 900, capS: 900 });
    const waiting = [phase('Load', { mode: 'until-settled', capS: 3600 })];
    expect(withMoreTime(waiting, 0, 300)[0]).toMatchObject({ durationS: 600, capS: 3900 });
    expect(withMoreTime(recipe, 1, 300)[0]).toBe(recipe[0]);
    expect(() => withMoreTime(recipe, 1, -5)).toThrow(RangeError);
  });
});

describe('handValue', () => {
  it.each([
    ['61.4', 61.4],
    ['61,4', 61.4],
    [' 142F ', 61.11],
    ['142 °f', 61.11],
    ['61.4C', 61.4],
    ['334.55 K', 61.4],
    ['-4', -4],
    ['+61', 61],
  ])('%s is understood', (typed, valueC) => {
    expect(handValue(typed)).toMatchObject({ kind: 'value', valueC });
  });
  it('takes a bare number in the unit that is usual, whatever else is typed wins', () => {
    expect(handValue('142', 'F')).toMatchObject({ valueC: 61.11, unit: 'F' });
    expect(handValue('61.4c', 'F')).toMatchObject({ valueC: 61.4, unit: 'C' });
  });
  it.each([
    ['', 'Nothing'],
    ['hot', 'not a temperature'],
    ['61.4.2', 'not a temperature'],
    ['1e3', 'not a temperature'],
    ['NaN', 'not a temperature'],
    ['6140', 'another unit'],
    ['-5 K', 'Kelvin'],
  ])('“%s” is not', (typed, why) => {
    expect(handValue(typed)).toMatchObject({ kind: 'unclear', why: expect.stringContaining(why) });
  });
});
