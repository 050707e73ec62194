import { fixed } from '../format/measured.ts';
import { recirculation } from '../heat/recirculation.ts';
import { padStack } from '../heat/padStack.ts';
import { removeBackground } from '../noise/removeBackground.ts';
import { sumLevels } from '../noise/sumLevels.ts';
import { typeB } from '../uncertainty/typeB.ts';

/** A number off a note, with what it may be off by (half-width); 0 where nobody said. */
export interface Noted {
  value: number;
  plusMinus: number;
}

/** What stands on a note; whatever does not is null. Temperatures °C, power W, levels dB(A), lengths mm, areas mm². */
export interface ScratchNote {
  room: Noted | null;
  intake: Noted | null;
  exhaust: Noted | null;
  powerW: Noted | null;
  spots: { name: string; tempC: Noted; limitC: number | null }[];
  /** Air of another place, such as a case. */
  otherAirC: number | null;
  /** Power of another card, or of the same at another setting. */
  otherPowerW: number | null;
  levels: number[];
  /** The room with everything off. */
  floorDb: number | null;
  /** What lies between a part and its sink, and the heat through it. */
  joint: { thickMm: number; gapMm: number | null; conductivityWPerMK: number; areaMm2: number; heatW: number } | null;
}

export interface ScratchAnswer {
  key: string;
  /** Which spot it is of; empty where of none. */
  about: string;
  label: string;
  /** Value with its standard uncertainty; null where it cannot be said. */
  value: { value: number; u: number } | null;
  unit: string;
  /** How it was worked out, or why it cannot be said. */
  how: string;
}

/** Of rise = a·P^b where one power is known: the exponent of forced flow, and how far off it may be. Our own figure, as for watts carried. */
const EXPONENT = 1;
const EXPONENT_U = 0.12;

const u = (noted: Noted) => typeB(noted.plusMinus, 'rectangular');
const share = (value: number) => fixed(100 * value, 0);
const one = (value: number) => fixed(value, 1);

const cannot = (key: string, label: string, unit: string, how: string, about = ''): ScratchAnswer => ({
  key,
  about,
  label,
  value: null,
  unit,
  how,
});

function answer(key: string, label: string, unit: string, how: string, value: number, parts: readonly number[], about = ''): ScratchAnswer {
  const said = { value, u: Math.hypot(...parts) };
  // Two temperatures that all but coincide divide into anything.
  return Number.isFinite(said.value) && Number.isFinite(said.u)
    ? { key, about, label, value: said, unit, how }
    : cannot(key, label, unit, 'the numbers lie too close together to divide by', about);
}

function ofAir({ room, intake, exhaust }: ScratchNote): ScratchAnswer[] {
  if (!room || !intake) return [];
  const warmer = intake.value - room.value;
  const buys =
    warmer > 0
      ? [answer('cooler-air', 'room air at the intake would buy', 'K', `every spot follows its air one for one: ${one(intake.value)} − ${one(room.value)}`, warmer, [u(intake), u(room)])] // prettier-ignore
      : [];
  if (!exhaust) return buys;
  const label = 'of its exhaust is breathed again';
  const span = exhaust.value - room.value;
  if (span <= 0) return [...buys, cannot('breathed', label, '%', 'the exhaust must be warmer than the room')];
  const { raw } = recirculation(room.value, intake.value, exhaust.value);
  const parts = [u(intake) / span, (warmer / span ** 2) * u(exhaust), ((intake.value - exhaust.value) / span ** 2) * u(room)];
  const how = `(intake − room) / (exhaust − room) = ${one(warmer)} / ${one(span)}`;
  return [
    answer(
      'breathed',
      label,
      '%',
      how,
      100 * raw,
      parts.map((part) => 100 * part),
    ),
    ...buys,
  ];
}

function ofSpot(note: ScratchNote, { name, tempC, limitC }: ScratchNote['spots'][number]): ScratchAnswer[] {
  const { room, intake, powerW, otherAirC, otherPowerW } = note;
  const over = (air: Noted | null, words: string, key: string): ScratchAnswer[] => {
    if (!air) return [];
    const rise = tempC.value - air.value;
    const riseU = [u(tempC), u(air)];
    const made = [answer(`rise-${key}`, `over ${words}`, 'K', `${one(tempC.value)} − ${one(air.value)}`, rise, riseU, name)];
    if (!powerW || powerW.value <= 0) return made;
    const perWatt = rise / powerW.value;
    const parts = [...riseU.map((part) => part / powerW.value), (perWatt / powerW.value) * u(powerW)];
    return [...made, answer(`kpw-${key}`, `to ${words}`, 'K/W', `${one(rise)} K / ${one(powerW.value)} W`, perWatt, parts, name)];
  };
  return [
    ...over(room, 'room', 'room'),
    ...over(intake, 'intake', 'intake'),
    ...(room && otherAirC !== null
      ? [answer('other-air', `in air of ${one(otherAirC)} °C`, '°C', 'one for one with its air, at the same fan and power', tempC.value + otherAirC - room.value, [u(tempC), u(room)], name)] // prettier-ignore
      : []),
    ...(room && powerW && otherPowerW !== null ? atPower(tempC, room, powerW, otherPowerW, name) : []),
    ...(limitC === null ? [] : toLimit(tempC, room, powerW, limitC, name)),
  ];
}

function atPower(tempC: Noted, room: Noted, powerW: Noted, otherW: number, name: string): ScratchAnswer[] {
  const rise = tempC.value - room.value;
  const label = `over room at ${one(otherW)} W`;
  if (powerW.value <= 0 || rise <= 0) return [cannot('other-power', label, 'K', 'a power and a rise above nought are needed', name)];
  const ratio = otherW / powerW.value;
  const there = rise * ratio ** EXPONENT;
  const parts = [u(tempC) * ratio, u(room) * ratio, (there / powerW.value) * u(powerW), there * Math.log(ratio || 1) * EXPONENT_U];
  return [answer('other-power', label, 'K', `rise grows with power, to the power of ${EXPONENT} ± ${EXPONENT_U}`, there, parts, name)];
}

function toLimit(tempC: Noted, room: Noted | null, powerW: Noted | null, limitC: number, name: string): ScratchAnswer[] {
  const left = answer(
    'left',
    `left to ${one(limitC)} °C`,
    'K',
    `${one(limitC)} − ${one(tempC.value)}`,
    limitC - tempC.value,
    [u(tempC)],
    name,
  );
  if (!room || !powerW) return [left];
  const label = `carries until ${one(limitC)} °C`;
  const rise = tempC.value - room.value;
  const span = limitC - room.value;
  if (rise <= 0 || span <= 0 || powerW.value <= 0)
    return [left, cannot('watts', label, 'W', 'a limit and a spot above the room, and a power, are needed', name)];
  const times = span / rise;
  const watts = powerW.value * times ** (1 / EXPONENT);
  // By the logarithm: the room stands in both of its terms.
  const parts = [u(tempC) / rise, u(room) * (1 / rise - 1 / span), u(powerW) / powerW.value, Math.log(times) * EXPONENT_U].map(
    (part) => watts * part,
  );
  const how = `${one(powerW.value)} W × ${one(span)} K / ${one(rise)} K, exponent ${EXPONENT} ± ${EXPONENT_U}; ${one(watts - powerW.value)} W ${watts >= powerW.value ? 'more' : 'less'} than now`; // prettier-ignore
  return [left, answer('watts', label, 'W', how, watts, parts, name)];
}

function ofNoise({ levels, floorDb }: ScratchNote): ScratchAnswer[] {
  if (levels.length === 0) return [];
  const total = sumLevels(levels);
  const sum = levels.length > 1 ? [answer('sum', 'together', 'dB(A)', 'powers add: 10·log₁₀ Σ 10^(L/10)', total, [])] : [];
  if (floorDb === null) return sum;
  const label = 'without the room';
  if (total <= floorDb) return [...sum, cannot('free', label, 'dB(A)', 'it is no louder than the room: nothing can be said of it')];
  const { level, reliable } = removeBackground(total, floorDb);
  return reliable
    ? [...sum, answer('free', label, 'dB(A)', `${one(total)} freed of ${one(floorDb)} by their powers`, level, [])]
    : [...sum, cannot('free', label, 'dB(A)', `only ${one(total - floorDb)} dB above the room: under 3 dB a correction is a guess`)];
}

function ofJoint({ joint }: ScratchNote): ScratchAnswer[] {
  if (!joint) return [];
  const { thickMm, gapMm, conductivityWPerMK, areaMm2, heatW } = joint;
  const label = gapMm === null ? 'across the paste' : 'across the pad';
  if ([thickMm, conductivityWPerMK, areaMm2].some((value) => !(value > 0))) return [cannot('joint', label, 'K', 'thickness, conductivity and area must be above nought')]; // prettier-ignore
  const atMm = gapMm ?? thickMm;
  const stack = padStack({
    gapMm: atMm,
    padMm: gapMm === null ? thickMm * 2 : thickMm,
    conductivityWPerMK,
    areaMm2,
    heatW,
    maxCompression: 1,
  });
  if (stack.dropK === null)
    return [cannot('joint', label, 'K', `a pad of ${fixed(thickMm, 2)} mm does not reach across ${fixed(atMm, 2)} mm`)];
  const squeezed = gapMm === null ? '' : `, squeezed by ${share(stack.compression)} %`;
  return [answer('joint', label, 'K', `${one(heatW)} W × ${fixed(atMm, 2)} mm / (${fixed(conductivityWPerMK, 1)} W/(m·K) × ${one(areaMm2)} mm²)${squeezed}; faces come on top`, stack.dropK, [])]; // prettier-ignore
}

/**
 * Everything that a note says, each with how it was worked out: rises, heat resistance, the share of exhaust that is breathed again, what
 * cooler air would buy, watts to a limit, another air, another power, levels, and what a pad or paste costs. First order throughout: what
 * was not recorded cannot be checked.
 */
export function scratchAnswers(note: ScratchNote): ScratchAnswer[] {
  return [...ofAir(note), ...note.spots.flatMap((spot) => ofSpot(note, spot)), ...ofNoise(note), ...ofJoint(note)];
}
