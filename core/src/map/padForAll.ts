import { padStack, type PadContact, type PadStack } from '../heat/padStack.ts';
import { areaMm2, overlap, type BoardMap, type MapCover, type MapPart } from './boardMap.ts';

/** Thicknesses that pads are sold in, mm. */
export const PAD_THICKNESSES_MM = [0.5, 1, 1.5, 2, 2.5, 3, 4] as const;

/** Gaps up to this are bond lines, filled by paste; our own figure. */
const MOST_PASTE_MM = 0.15;

export interface PartUnderSink {
  part: MapPart;
  gapMm: number;
  areaMm2: number;
  stack: PadStack & { worstCase: PadStack };
}

export interface PadChoice {
  padMm: number;
  parts: PartUnderSink[];
  /** Of all parts at both ends of the tolerance. */
  worst: PadContact;
  serves: boolean;
  /** Largest temperature across the pad of any part, K; null where one is not touched. */
  mostDropK: number | null;
}

export interface PadAdvice {
  /** One entry a thickness, in their order. */
  choices: PadChoice[];
  /** The thickness that serves every part with the least worst drop; null where none does. */
  best: PadChoice | null;
  /** Parts in groups that one thickness serves each, where no thickness serves all; null where some part cannot be served at all. */
  split: { padMm: number; partIds: string[] }[] | null;
  /** Parts that stand higher than the sink's face. */
  collides: MapPart[];
}

const WORSE: PadContact[] = ['good', 'light', 'over-compressed', 'none'];
const worstOf = (contacts: readonly PadContact[]) => [...contacts].sort((a, b) => WORSE.indexOf(b) - WORSE.indexOf(a))[0]!;

function choose(
  padMm: number,
  under: { part: MapPart; gapMm: number; area: number }[],
  cover: MapCover,
  conductivityWPerMK: number,
  heatW: number,
): PadChoice {
  const parts = under.map(({ part, gapMm, area }): PartUnderSink => ({
    part,
    gapMm,
    areaMm2: area,
    stack: padStack({
      gapMm,
      gapToleranceMm: cover.gapToleranceMm,
      padMm,
      conductivityWPerMK,
      areaMm2: area,
      heatW: part.heatShare * heatW,
    }),
  }));
  const worst = worstOf(parts.flatMap(({ stack }) => [stack.contact, stack.worstCase.contact]));
  const drops = parts.map(({ stack }) => stack.worstCase.dropK);
  return { padMm, parts, worst, serves: worst === 'good', mostDropK: drops.includes(null) ? null : Math.max(...(drops as number[])) };
}

/**
 * Which pad goes under a sink that meets parts of several heights: every part under it together, at both ends of the tolerance
 * (methods §9). A thickness serves where every part is touched well and none is squeezed too far.
 *
 * @param conductivityWPerMK of the pad, the same at every thickness
 * @param thicknessesMm that can be had
 * @returns where none serves, the fewest groups of neighbouring heights that one thickness serves each
 * @throws RangeError as padStack; no thickness given
 */
export function padForAll(
  map: BoardMap,
  cover: MapCover,
  conductivityWPerMK: number,
  thicknessesMm: readonly number[] = PAD_THICKNESSES_MM,
): PadAdvice {
  if (thicknessesMm.length === 0) throw new RangeError('no thickness can be had');
  const beneath = map.parts.flatMap((part) => {
    const common = part.face === cover.face ? overlap(part, cover) : null;
    // What another cover meets lower down, such as a raised face on the die, is not this one's to reach.
    if (common && map.covers.some((other) => other.face === cover.face && other.undersideMm < cover.undersideMm && overlap(part, other)))
      return [];
    return common ? [{ part, gapMm: cover.undersideMm - part.tallMm, area: areaMm2(common) }] : [];
  });
  const collides = beneath.filter(({ gapMm }) => gapMm < 0).map(({ part }) => part);
  const under = beneath.filter(({ gapMm }) => gapMm >= 0).sort((a, b) => a.gapMm - b.gapMm);
  if (under.length === 0) return { choices: [], best: null, split: null, collides };
  const choices = thicknessesMm.map((padMm) => choose(padMm, under, cover, conductivityWPerMK, map.heatW));
  const best = choices.filter((choice) => choice.serves).sort((a, b) => a.mostDropK! - b.mostDropK! || a.padMm - b.padMm)[0] ?? null;
  return {
    choices,
    best,
    split: best
      ? null
      : groupsOf(
          choices,
          under.map(({ part }) => part.id),
        ),
    collides,
  };
}

/** Greedy from the smallest gap on, each group as long as one thickness serves it: the fewest, since gaps are in order. */
function groupsOf(choices: readonly PadChoice[], partIds: readonly string[]): PadAdvice['split'] {
  const served = (choice: PadChoice, id: string) => {
    const { stack } = choice.parts.find(({ part }) => part.id === id)!;
    return stack.contact === 'good' && stack.worstCase.contact === 'good';
  };
  const groups: { padMm: number; partIds: string[] }[] = [];
  for (let at = 0; at < partIds.length;) {
    const runs = choices.map((choice) => {
      let end = at;
      while (end < partIds.length && served(choice, partIds[end]!)) end++;
      return { padMm: choice.padMm, end };
    });
    const longest = runs.sort((a, b) => b.end - a.end || a.padMm - b.padMm)[0]!;
    if (longest.end === at) return null;
    groups.push({ padMm: longest.padMm, partIds: partIds.slice(at, longest.end) });
    at = longest.end;
  }
  return groups;
}

/** Whether a face is meant to lie on its parts with paste alone: nothing stands above it, and every gap is no more than a bond line. */
export function pasteAlone({ choices, collides }: PadAdvice): boolean {
  const parts = choices[0]?.parts ?? [];
  return collides.length === 0 && parts.length > 0 && parts.every(({ gapMm }) => gapMm <= MOST_PASTE_MM);
}

/** Parts that no thickness touches well, the nearest to the face first. */
export function unserved({ choices }: PadAdvice): PartUnderSink[] {
  const well = ({ stack }: PartUnderSink) => stack.contact === 'good' && stack.worstCase.contact === 'good';
  const parts = choices[0]?.parts ?? [];
  return parts.filter((_, i) => choices.every((choice) => !well(choice.parts[i]!))).sort((p, q) => p.gapMm - q.gapMm);
}
