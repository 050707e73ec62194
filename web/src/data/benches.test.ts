import { expect, it } from 'vitest';
import * as made from '@red-ember/testing';
import { benchesFor } from './benches.ts';

const rig = (id: string, family: 'card' | 'drive' | null, keys: string[], connected = true) => ({
  ...made.rig,
  id,
  name: id,
  family,
  connected,
  channels: keys.map((key) => ({ key, label: `${key} of it`, quantity: 'temperature', unit: '°C' })),
  setups: [{ key: `${id}-bare`, label: 'bare' }],
});

it('offers a study the benches of its family and those for any, each key once, with whose it is', () => {
  const all = [rig('cards', 'card', ['die', 'room']), rig('drives', 'drive', ['tc1', 'room']), rig('shed', null, ['tc1'], false)];
  const { rigs, channels, setups } = benchesFor(all, 'card');
  expect(rigs.map(({ id }) => id)).toEqual(['cards', 'shed']);
  // What is gone offers no channel; its set-ups can still be planned for.
  expect(channels).toEqual([
    { key: 'die', label: 'die of it', unit: '°C' },
    { key: 'room', label: 'room of it', unit: '°C' },
  ]);
  expect(setups.map(({ key }) => key)).toEqual(['cards-bare', 'shed-bare']);
  const both = benchesFor([rig('a', null, ['tc1']), rig('b', null, ['tc1', 'tc2'])], 'drive');
  expect(both.channels.map(({ key, label }) => `${key}: ${label}`)).toEqual(['tc1: tc1 of it, b', 'tc2: tc2 of it, b']);
});
