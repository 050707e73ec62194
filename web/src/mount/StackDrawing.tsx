import type { MapCover, PadChoice } from '@red-ember/core';

const WIDE = 760;
const RIM = 46;
/** Heights are drawn larger than widths, or nothing could be told apart. */
const TALL = 150;

/** Parts under one sink in cross-section: their heights, the pad, and where it does not reach. Heights are stretched. */
export function StackDrawing({ cover, choice }: { cover: MapCover; choice: PadChoice }) {
  const parts = [...choice.parts].sort((a, b) => a.part.xMm - b.part.xMm || a.part.yMm - b.part.yMm);
  const highest = Math.max(cover.undersideMm, ...parts.map(({ part }) => part.tallMm)) * 1.25;
  const y = (mm: number) => TALL - (mm / highest) * (TALL - 24);
  const step = (WIDE - RIM - 10) / parts.length;
  const wide = Math.min(70, step * 0.72);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL + 34}`}
      className="h-auto w-full max-w-[760px]"
      role="img"
      aria-label={`Cross-section under ${cover.name} with pads of ${choice.padMm} mm`}
    >
      <defs>
        <pattern id="pad-cut" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="6" stroke="var(--quench)" strokeWidth="1.6" />
        </pattern>
      </defs>
      <line x1={RIM} x2={WIDE - 6} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth="2" />
      <text x={RIM - 6} y={y(0) + 4} fontSize="11" textAnchor="end" fill="var(--soft)">
        board
      </text>
      <rect x={RIM} y={4} width={WIDE - RIM - 6} height={y(cover.undersideMm) - 4} fill="var(--shade)" stroke="var(--stone)" />
      <text x={RIM + 8} y={18} fontSize="12" fill="var(--ink)">
        {cover.name}, lower face at {cover.undersideMm} mm ± {cover.gapToleranceMm}
      </text>
      {parts.map(({ part, gapMm, stack }, i) => {
        const x = RIM + i * step + (step - wide) / 2;
        const bad = stack.worstCase.contact !== 'good';
        const pad = Math.min(choice.padMm, gapMm);
        return (
          <g key={part.id}>
            <title>{`${part.name}: gap ${gapMm.toFixed(2)} mm, ${stack.worstCase.contact} at worst`}</title>
            <rect
              x={x}
              y={y(part.tallMm)}
              width={wide}
              height={y(0) - y(part.tallMm)}
              fill="var(--stone)"
              fillOpacity="0.5"
              stroke="var(--ink)"
            />
            <rect
              x={x}
              y={y(part.tallMm + pad)}
              width={wide}
              height={y(part.tallMm) - y(part.tallMm + pad)}
              fill="url(#pad-cut)"
              stroke={bad ? 'var(--ember)' : 'var(--quench)'}
              strokeWidth={bad ? 2 : 1}
            />
            {step > 34 ? (
              <text x={x + wide / 2} y={TALL + 16} fontSize="11" textAnchor="middle" fill={bad ? 'var(--ember-text)' : 'var(--soft)'}>
                {stack.contact === 'none' ? 'no touch' : `${Math.round(100 * stack.compression)} %`}
              </text>
            ) : null}
          </g>
        );
      })}
      <text x={RIM} y={TALL + 31} fontSize="11" fill="var(--soft)">
        pad squeezed by, of its thickness · heights stretched · red: not well at an end of the tolerance
      </text>
    </svg>
  );
}
