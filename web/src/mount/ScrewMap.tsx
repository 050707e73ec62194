import { crosswiseOrder } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';

const WIDE_PX = 260;
const TALL_PX = 170;
const RIM_MM = 4;

/** Where each screw of a cover sits, which it is, and in which order they are tightened: crosswise. Loosened the same way. */
export function ScrewMap({ map, coverId, loosen }: { map: BoardMapBody; coverId: string; loosen: boolean }) {
  const cover = map.covers.find((candidate) => candidate.id === coverId);
  const screws = (map.screws ?? []).filter((screw) => screw.coverId === coverId);
  if (!cover || screws.length === 0) return null;
  const order = crosswiseOrder(screws);
  const [left, top] = [Math.min(0, cover.xMm), Math.min(0, cover.yMm)];
  const wide = Math.max(map.widthMm, cover.xMm + cover.widthMm) - left + 2 * RIM_MM;
  const tall = Math.max(map.heightMm, cover.yMm + cover.heightMm) - top + 2 * RIM_MM;
  const scale = Math.min(WIDE_PX / wide, TALL_PX / tall);
  const px = (n: number) => n / scale;
  // Screws of a narrow sink lie close: their numbers stay apart.
  const apart = Math.min(...screws.flatMap((p, i) => screws.slice(i + 1).map((q) => Math.hypot(p.xMm - q.xMm, p.yMm - q.yMm) * scale)));
  const radius = Math.max(5, Math.min(10, 0.48 * apart));
  const kinds = [...new Set(screws.map((screw) => screw.name))];
  return (
    <figure className="mt-2 flex flex-wrap items-start gap-4">
      <svg
        viewBox={`${left - RIM_MM} ${top - RIM_MM} ${wide} ${tall}`}
        width={wide * scale}
        className="h-auto max-w-full shrink-0"
        role="img"
        aria-label={`Screws of ${cover.name}, in order`}
      >
        <rect x={0} y={0} width={map.widthMm} height={map.heightMm} fill="var(--shade)" stroke="var(--stone)" strokeWidth={px(1)} />
        <rect
          x={cover.xMm}
          y={cover.yMm}
          width={cover.widthMm}
          height={cover.heightMm}
          fill="none"
          stroke="var(--quench)"
          strokeWidth={px(2)}
          strokeDasharray={`${px(7)} ${px(4)}`}
        />
        {order.map((index, place) => (
          <g key={screws[index]!.id}>
            <circle cx={screws[index]!.xMm} cy={screws[index]!.yMm} r={px(radius)} fill="var(--ink)" />
            <text
              x={screws[index]!.xMm}
              y={screws[index]!.yMm + px(0.4 * radius)}
              fontSize={px(1.2 * radius)}
              fontWeight={600}
              textAnchor="middle"
              fill="var(--paper)"
            >
              {place + 1}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="min-w-0 flex-1 text-[0.93rem] leading-snug">
        <p className="mb-1 text-soft">
          {loosen
            ? 'Loosen crosswise, a little at a time; note what came from where.'
            : 'Tighten crosswise, half a turn at a time, never one all the way before the others.'}
        </p>
        {kinds.map((kind) => (
          <p key={kind}>
            <b className="font-semibold">{kind}</b> at{' '}
            {order.flatMap((index, place) => (screws[index]!.name === kind ? [place + 1] : [])).join(', ')}
          </p>
        ))}
      </figcaption>
    </figure>
  );
}
