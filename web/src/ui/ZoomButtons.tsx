import type { Zoomed } from './useZoomed.ts';

/** How closely a drawing is looked at; the same words as under a trace. */
export function ZoomButtons({ zoomed, what }: { zoomed: Zoomed; what: string }) {
  const larger = zoomed.at.k > 1;
  return (
    <span className="no-print flex flex-wrap gap-4 text-[0.87rem] text-soft">
      <button type="button" className="underline" onClick={zoomed.closer}>
        Closer
      </button>
      <button type="button" className="underline disabled:opacity-40" onClick={zoomed.wider} disabled={!larger}>
        Wider
      </button>
      <button type="button" className="underline disabled:opacity-40" onClick={zoomed.whole} disabled={!larger}>
        {what}
      </button>
      {larger ? <span>Shift and drag moves it.</span> : null}
    </span>
  );
}
