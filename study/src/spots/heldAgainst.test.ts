import { expect, it } from 'vitest';
import { heldAgainst } from './heldAgainst.ts';

const spot = (id: string, componentClass: 'flash' | 'drive controller' | 'drive sensor' | 'memory', change: object = {}) => ({
  id,
  componentClass,
  method: 'attached' as const,
  byHand: false,
  twinOf: null as string | null,
  ...change,
});
const flash = spot('flash', 'flash');
const controller = spot('ctrl', 'drive controller');
const own = spot('own', 'drive sensor', { method: 'own' });

it('goes by the twin where somebody said so, and else holds a part’s own sensor against what is attached to its kind', () => {
  expect(heldAgainst({ ...own, twinOf: 'ctrl' }, [flash, controller, own])).toEqual({ ids: ['ctrl'], samePlace: true });
  expect(heldAgainst(own, [flash, controller, own])).toEqual({ ids: ['flash', 'ctrl'], samePlace: false });
  const memory = spot('m', 'memory', { method: 'own' });
  expect(heldAgainst(memory, [memory, spot('m2', 'memory'), flash])).toEqual({ ids: ['m2'], samePlace: false });
});

it('has nothing to hold it against where nothing is attached, or where it is attached itself', () => {
  expect(heldAgainst(own, [own, spot('gun', 'flash', { byHand: true }), spot('other', 'flash', { method: 'own' })])).toBeNull();
  expect(heldAgainst(flash, [flash, controller])).toBeNull();
  expect(heldAgainst({ ...own, twinOf: 'gone' }, [flash, own])).toBeNull();
});
