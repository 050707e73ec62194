import { useState } from 'react';
import { BLANK_NOTE, type TypedNote } from './typedNote.ts';

/** What stands on the sheet is kept in this browser until it is wiped. */
const KEY = 'red-ember scratch sheet';

function kept(): TypedNote {
  try {
    const read = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<TypedNote>;
    const spots = Array.isArray(read.spots) && read.spots.length > 0 ? read.spots : BLANK_NOTE.spots;
    const texts = Object.entries(BLANK_NOTE).map(([field, blank]) => {
      const was = (read as Record<string, unknown>)[field];
      return [field, typeof blank === 'string' && typeof was === 'string' ? was : blank];
    });
    return { ...(Object.fromEntries(texts) as unknown as TypedNote), spots, joint: { ...BLANK_NOTE.joint, ...read.joint } };
  } catch {
    return BLANK_NOTE;
  }
}

/** A note that is typed, kept over a reload, and can be wiped and brought back. */
export function useTypedNote() {
  const [typed, setTyped] = useState<TypedNote>(kept);
  const [wiped, setWiped] = useState<TypedNote | null>(null);
  const put = (next: TypedNote) => {
    setTyped(next);
    try {
      localStorage.setItem(KEY, JSON.stringify(next));
    } catch {
      // A browser that keeps nothing still works.
    }
  };
  return {
    typed,
    put,
    wipe() {
      setWiped(typed);
      put(BLANK_NOTE);
    },
    /** Null where nothing was wiped. */
    bringBack: wiped
      ? () => {
          put(wiped);
          setWiped(null);
        }
      : null,
  };
}
