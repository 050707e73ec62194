import { useEffect, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import { useDrag, useWheel } from '@use-gesture/react';
import { MOVES_BY, movedBy, zoomedBy, type Stretch } from './stretch.ts';

/** What moves is fetched once it has stood still for so long, ms: a wheel turns many times a second. */
const STANDS_MS = 120;
/** A shorter drag is a press, of the plot's width. */
const LEAST_DRAG = 0.02;
/** One notch of a wheel makes it closer or wider by this. */
const NOTCH = 1.0015;

interface Asked {
  /** What is shown now. */
  shown: Stretch;
  wholeS: number;
  /** Of the element's left and right edge, px: beside the plot. */
  beside: { left: number; right: number };
  onZoom: ((stretch: Stretch | null) => void) | undefined;
}

/**
 * A trace that is looked at more closely and moved along: a drag over it looks closer, with Shift it moves; the wheel moves it sideways or
 * with Shift, and with Ctrl looks closer (without them the page scrolls); arrows, +, − and 0 where it has the focus.
 *
 * @returns seen: what to draw now, ahead of what is fetched; marked: what a drag lies over, shares of the plot
 */
export function useStretch(box: RefObject<HTMLDivElement | null>, { shown, wholeS, beside, onZoom }: Asked) {
  const [going, setGoing] = useState<Stretch | null>(null);
  const [marked, setMarked] = useState<{ from: number; to: number } | null>(null);
  const standing = useRef<number | undefined>(undefined);
  useEffect(() => () => window.clearTimeout(standing.current), []);
  const seen = going ?? shown;
  // Several events come before the next drawing.
  const latest = useRef<Stretch | null>(null);
  const now = () => latest.current ?? shown;

  const shareAt = (clientX: number) => {
    const rect = box.current!.getBoundingClientRect();
    return Math.min(1, Math.max(0, (clientX - rect.left - beside.left) / (rect.width - beside.left - beside.right)));
  };
  const wideS = seen.toS - seen.fromS;
  const timeAt = (share: number) => seen.fromS + share * wideS;
  const secondsIn = (px: number) => (px * wideS) / Math.max(1, box.current!.clientWidth - beside.left - beside.right);
  const isWhole = shown.fromS <= 0 && shown.toS >= wholeS;

  const put = (stretch: Stretch | null) => {
    window.clearTimeout(standing.current);
    latest.current = null;
    setGoing(null);
    onZoom?.(stretch);
  };
  const move = (stretch: Stretch | null) => {
    latest.current = stretch ?? { fromS: 0, toS: wholeS };
    setGoing(latest.current);
    window.clearTimeout(standing.current);
    standing.current = window.setTimeout(() => put(stretch), STANDS_MS);
  };

  const dragged = useDrag(
    ({ initial: [x0], xy: [x1], delta: [dx], last, canceled, shiftKey, first, memo }) => {
      const moves = first ? shiftKey && !isWhole : (memo as boolean);
      if (moves) {
        if (!last) move(movedBy(now(), -secondsIn(dx), wholeS));
        return moves;
      }
      const [from, to] = [shareAt(x0), shareAt(x1)];
      if (last && !canceled && Math.abs(to - from) > LEAST_DRAG)
        put({ fromS: timeAt(Math.min(from, to)), toS: timeAt(Math.max(from, to)) });
      setMarked(last ? null : { from, to });
      return moves;
    },
    { pointer: { keys: false } },
  );
  useWheel(
    ({ event, delta: [dx, dy] }) => {
      const closer = event.ctrlKey || event.metaKey;
      // Browsers turn a wheel with Shift sideways themselves, or leave it to the page.
      const along = Math.abs(dx) > Math.abs(dy) ? dx : event.shiftKey ? dy : 0;
      if (!onZoom || (!closer && (along === 0 || isWhole))) return;
      event.preventDefault();
      move(closer ? zoomedBy(now(), NOTCH ** dy, wholeS, timeAt(shareAt(event.clientX))) : movedBy(now(), secondsIn(along), wholeS));
    },
    { target: box, eventOptions: { passive: false }, enabled: onZoom !== undefined },
  );

  const by = (factor: number) => put(zoomedBy(seen, factor, wholeS));
  const along = (share: number) => put(movedBy(seen, share * wideS, wholeS));
  const acts = {
    closer: () => by(0.5),
    wider: () => by(2),
    earlier: () => along(-MOVES_BY),
    later: () => along(MOVES_BY),
    whole: () => put(null),
  };
  const pressed = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const act = { '+': acts.closer, '=': acts.closer, '-': acts.wider, '0': acts.whole, ArrowLeft: acts.earlier, ArrowRight: acts.later }[event.key]; // prettier-ignore
    if (!act) return;
    event.preventDefault();
    act();
  };
  return { seen, marked, isWhole, dragged, pressed, ...acts };
}
