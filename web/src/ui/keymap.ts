/** Every key of the product, once: the pages bind it, the buttons show it, the list of keys explains it. */
export const KEYMAP = {
  keys: { hotkey: '?', shown: ['?'], what: 'These keys', group: 'Everywhere' },
  search: { hotkey: '/', shown: ['/'], what: 'Look for anything', group: 'Everywhere' },
  save: { hotkey: 'mod+s', shown: ['Ctrl', 'S'], what: 'Save the study', group: 'While writing' },
  undo: { hotkey: 'mod+z', shown: ['Ctrl', 'Z'], what: 'Undo the last change', group: 'While writing' },
  redo: { hotkey: 'mod+shift+z', shown: ['Ctrl', 'Shift', 'Z'], what: 'Do it again', group: 'While writing' },
  mark: { hotkey: 'm', shown: ['M'], what: 'Mark this moment', group: 'While a run goes on' },
  change: { hotkey: 'c', shown: ['C'], what: 'Change something, or write down a change', group: 'While a run goes on' },
  hand: { hotkey: 'h', shown: ['H'], what: 'Type hand readings', group: 'While a run goes on' },
  goOn: { hotkey: 'n', shown: ['N'], what: 'End this phase, or go on after a pause', group: 'While a run goes on' },
  pause: { hotkey: 'p', shown: ['P'], what: 'Pause: take the load off', group: 'While a run goes on' },
  more: { hotkey: 'e', shown: ['E'], what: 'Ten minutes more for this phase', group: 'While a run goes on' },
  arm: { hotkey: 'a', shown: ['A'], what: 'Arm’s length view, and back', group: 'While a run goes on' },
  stop: { hotkey: 's', shown: ['S'], what: 'Stop the load (asks first)', group: 'While a run goes on' },
} as const satisfies Record<string, { hotkey: string; shown: readonly string[]; what: string; group: string }>;

export type KeyName = keyof typeof KEYMAP;

/** Keys that browsers and dialogues know by themselves. */
export const USUAL_KEYS = [
  { shown: ['Tab'], what: 'Next field or button', group: 'Everywhere' },
  { shown: ['Esc'], what: 'Close what is open', group: 'Everywhere' },
] as const;
