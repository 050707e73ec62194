import { KEYMAP, type KeyName } from './keymap.ts';
import type { ReactNode } from 'react';

export function Key({ children }: { children: ReactNode }) {
  return (
    <kbd className="inline-block min-w-6 rounded-[2px] border border-stone px-1.5 text-center font-sans text-[0.8rem] leading-5">
      {children}
    </kbd>
  );
}

/** The key of the table that does the same as a button. */
export const KeyOf = ({ name }: { name: KeyName }) => (
  <>
    {KEYMAP[name].shown.map((key) => (
      <Key key={key}>{key}</Key>
    ))}
  </>
);
