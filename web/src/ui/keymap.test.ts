import { expect, it } from 'vitest';
import { KEYMAP } from './keymap.ts';

it('gives no key two meanings where both are bound', () => {
  const hotkeys = Object.values(KEYMAP).map((entry) => entry.hotkey);
  expect(new Set(hotkeys).size).toBe(hotkeys.length);
});

it('shows every key as it is pressed', () => {
  for (const { hotkey, shown } of Object.values(KEYMAP)) {
    const pressed = hotkey.split('+').map((key) => (key === 'mod' ? 'ctrl' : key));
    expect(shown.map((key) => key.toLowerCase())).toEqual(pressed);
  }
});
