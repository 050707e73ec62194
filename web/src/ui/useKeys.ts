import { useHotkeys } from 'react-hotkeys-hook';
import { KEYMAP, type KeyName } from './keymap.ts';

/**
 * Binds keys of the table; by the letter that a key writes, not by its place on the board.
 *
 * @param acts what each of them does
 * @param options on: false while something else has the keyboard, such as a dialogue; whileTyping: in fields too; anyModifier: whatever else has to
 *   be held to write it, as for ? on most boards
 */
export function useKeys(
  acts: Partial<Record<KeyName, () => void>>,
  options: { on?: boolean; whileTyping?: boolean; anyModifier?: boolean } = {},
): void {
  const { on = true, whileTyping = false, anyModifier = false } = options;
  const names = Object.keys(acts) as KeyName[];
  useHotkeys(
    names.map((name) => KEYMAP[name].hotkey),
    (_event, { hotkey }) => {
      const name = names.find((candidate) => KEYMAP[candidate].hotkey === hotkey);
      if (name) acts[name]?.();
    },
    {
      enabled: on,
      preventDefault: true,
      useKey: true,
      enableOnFormTags: whileTyping,
      enableOnContentEditable: whileTyping,
      ignoreModifiers: anyModifier,
    },
  );
}
