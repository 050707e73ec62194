import { select } from 'd3-selection';
import { zoom, zoomIdentity, type D3ZoomEvent, type ZoomBehavior } from 'd3-zoom';
import { useEffect, useRef, useState, type RefObject } from 'react';

/** How much larger a drawing may be looked at. */
const MOST = 8;
const STEP = 1.6;

export interface Zoomed {
  /** Larger by `k`, moved by `x` and `y` in the drawing's own units. */
  at: { k: number; x: number; y: number };
  closer: () => void;
  wider: () => void;
  whole: () => void;
}

/** What is drawn there moves by itself, so that a press on it must not move the whole drawing. */
const ownGrip = (target: EventTarget | null) => target instanceof Element && target.closest('[role="button"]') !== null;

/**
 * A drawing that is looked at more closely: two fingers, the wheel with Ctrl (without it the page scrolls), or by call. Once it is larger, a
 * drag beside what can be gripped moves it, with Shift also on it: whoever drags things there leaves that to this hook.
 *
 * @param svg whose `viewBox` is `box`, [left, top, right, bottom]
 * @param pans false while a press on the drawing means something else
 */
export function useZoomed(svg: RefObject<SVGSVGElement | null>, box: readonly [number, number, number, number], pans: boolean): Zoomed {
  const [at, setAt] = useState<Zoomed['at']>(zoomIdentity);
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown> | null>(null);
  const mayPan = useRef(pans);
  const larger = useRef(false);
  useEffect(() => {
    mayPan.current = pans;
  }, [pans]);
  const [left, top, right, bottom] = box;
  useEffect(() => {
    if (!svg.current) return;
    const area: [[number, number], [number, number]] = [
      [left, top],
      [right, bottom],
    ];
    const own = zoom<SVGSVGElement, unknown>()
      .extent(area)
      .translateExtent(area)
      .scaleExtent([1, MOST])
      .filter((event: MouseEvent | WheelEvent | TouchEvent) => {
        if (event.type === 'wheel') return event.ctrlKey || event.metaKey;
        if ('touches' in event && event.touches.length > 1) return true;
        const main = !('button' in event) || event.button === 0;
        return larger.current && main && (event.shiftKey || (mayPan.current && !ownGrip(event.target)));
      })
      .on('zoom', ({ transform: { k, x, y } }: D3ZoomEvent<SVGSVGElement, unknown>) => {
        larger.current = k > 1;
        setAt({ k, x, y });
      });
    const drawing = select(svg.current);
    drawing.call(own).on('dblclick.zoom', null);
    behaviour.current = own;
    return () => void drawing.on('.zoom', null);
  }, [svg, left, top, right, bottom]);
  const by = (factor: number) => {
    if (svg.current && behaviour.current) behaviour.current.scaleBy(select(svg.current), factor);
  };
  return {
    at,
    closer: () => by(STEP),
    wider: () => by(1 / STEP),
    whole: () => {
      if (svg.current && behaviour.current) behaviour.current.transform(select(svg.current), zoomIdentity);
    },
  };
}

/** Keys of a drawing that has the focus, or something in it; true where one of them was pressed. */
export function zoomKey(key: string, { closer, wider, whole }: Zoomed): boolean {
  const act = { '+': closer, '=': closer, '-': wider, '0': whole }[key];
  act?.();
  return act !== undefined;
}

export const zoomTransform = ({ k, x, y }: Zoomed['at']): string => `translate(${x} ${y}) scale(${k})`;
