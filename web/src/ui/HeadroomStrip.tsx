import { fixed, headroomStrip, headroomWords, type StripInput } from '@red-ember/core';
import { useDegrees } from '../data/useDegrees.ts';

export type StripTone = 'stone' | 'ember' | 'quench';
const COLOUR: Record<StripTone, string> = { stone: 'var(--stone)', ember: 'var(--ember)', quench: 'var(--quench)' };

interface Props extends StripInput {
  tone?: StripTone;
  label: string;
  height?: number;
}

const percent = (share: number) => `${(100 * share).toFixed(2)}%`;

/**
 * The headroom strip: one track from room air at the left to the limit at the right. Bar: the part; soft end: its doubt; notch:
 * idle; dashed outline: restated for a warm enclosure.
 */
export function HeadroomStrip({ tone = 'stone', label, height = 9, ...input }: Props) {
  const { text } = useDegrees();
  if (![input.roomC, input.limitC, input.spotC, input.doubtK].every(Number.isFinite) || input.limitC <= input.roomC)
    return <div className="h-4 text-[0.8rem] text-soft">no strip: the limit lies below the room</div>;
  const strip = headroomStrip(input);
  const colour = COLOUR[tone];
  const words = text(`${label}: ${fixed(input.spotC, 1)} °C, ${headroomWords(strip.headroomK, 1)}, limit ${input.limitC} °C`);
  return (
    <div role="img" aria-label={words} className="relative w-full" style={{ height: height + 7 }}>
      <span className="absolute inset-x-0 border-b border-stone/60" style={{ top: height + 3 }} />
      <span className="absolute left-0" style={{ top: 3, height, width: percent(strip.solid), background: colour }} />
      <span
        className="absolute"
        style={{
          top: 3,
          height,
          left: percent(strip.solid),
          width: percent(strip.soft - strip.solid),
          background: `linear-gradient(to right, ${colour}, transparent)`,
        }}
      />
      {strip.projected !== null && strip.projected > strip.spot ? (
        <span
          className="absolute border border-dashed"
          style={{ top: 3, height, left: percent(strip.spot), width: percent(strip.projected - strip.spot), borderColor: colour }}
        />
      ) : null}
      {strip.idle !== null ? (
        <span className="absolute w-[2px] bg-paper" style={{ top: 2, height: height + 2, left: percent(strip.idle) }} />
      ) : null}
      <span className="absolute right-0 w-[2px] bg-ink" style={{ top: 0, height: height + 6 }} />
    </div>
  );
}
