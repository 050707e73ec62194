import { useEffect, useRef, useState } from 'react';
import { Button } from '../../ui/Button.tsx';

/** How long an act can be taken back before it is done, seconds. */
const WAIT_S = 10;

interface Pending {
  of: number;
  what: string;
  leftS: number;
}

/**
 * Does things a little later, so that a key that was hit by mistake can be taken back. In time-lapse ten seconds are minutes of the run:
 * there it is done at once.
 *
 * @param atOnce where it is not to wait
 * @param of what it is about: once that is another, what still waits is not done to it
 */
export function useTakeBack(atOnce: boolean, of: number) {
  const [asked, setPending] = useState<Pending | null>(null);
  const pending = asked?.of === of ? asked : null;
  const act = useRef<(() => void) | null>(null);
  const what = pending?.what ?? null;
  useEffect(() => {
    if (what === null) return;
    const counts = setInterval(() => setPending((now) => now && { ...now, leftS: Math.max(1, now.leftS - 1) }), 1000);
    const over = setTimeout(() => {
      act.current?.();
      act.current = null;
      setPending(null);
    }, 1000 * WAIT_S);
    return () => {
      clearInterval(counts);
      clearTimeout(over);
    };
  }, [what]);
  return {
    pending,
    /** Does it after the wait; the same again does it now. */
    soon: (next: string, work: () => void) => {
      if (atOnce || pending?.what === next) {
        act.current = null;
        setPending(null);
        work();
        return;
      }
      // Something else that still waits was meant.
      if (pending) act.current?.();
      act.current = work;
      setPending({ of, what: next, leftS: WAIT_S });
    },
    takeBack: () => {
      act.current = null;
      setPending(null);
    },
  };
}

export function TakeBack({ pending, onTakeBack }: { pending: Pending | null; onTakeBack: () => void }) {
  if (!pending) return null;
  return (
    <p role="status" className="mt-4 flex items-center gap-4 border-l-[3px] border-ochre bg-margin px-4 py-2">
      {pending.what} in {pending.leftS} s.
      <Button onClick={onTakeBack}>Take it back</Button>
    </p>
  );
}
