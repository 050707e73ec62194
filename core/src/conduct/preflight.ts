import { fixed } from '../format/measured.ts';
import { usable, type Series } from '../series/series.ts';

export type PreflightKey = 'locks' | 'room' | 'sensors' | 'fans' | 'cut-outs' | 'rehearsal' | 'seat' | 'cold';

/** One thing that was looked at before a run; `ok` null where it could not be seen. */
export interface PreflightCheck {
  key: PreflightKey;
  ok: boolean | null;
  text: string;
}

/** How fast a fan turns for its duty, from clean runs. */
export interface UsualSpeed {
  /** rpm for each percent. */
  perDuty: number;
  /** How far a clean run may lie from it, as a share. */
  within: number;
  /** What it was told in those runs, %: at another duty nothing is known. */
  dutyPercent: number;
}

export interface PreflightInput {
  /** Locks that the tester confirms, and those that a channel shows. */
  confirmed: { name: string; done: boolean }[];
  watched: { name: string; unit: string; value: number; tolerance: number; series: Series | null }[];
  /** Results rest on the room. */
  needsRoom: boolean;
  room: Series | null;
  roomBand: { minC: number; maxC: number } | null;
  spots: { name: string; series: Series | null; limitC: number; cutOutC: number; usualIdleRiseK: number | null }[];
  /** Fans and the duty they are told (NaN where nothing says so), and how fast they usually turn for it, where clean runs have shown that. */
  fans: { name: string; rpm: Series; dutyPercent: number; usual: UsualSpeed | null }[];
  /** What is known of how the mount sits. */
  seat: 'alike' | 'off' | 'not-checked' | 'not-needed';
  /** Whether this rig has ever shown that its load goes off; `newest` null where it has not. */
  rehearsal: {
    simulated: boolean;
    newest: { ageDays: number; steps: { name: string; ok: boolean; offAfterS: number | null; sentence: string }[] } | null;
  };
}

/** A thermocouple that reads the same to the last digit for this long is stuck; one sample says nothing. */
const STUCK_SAMPLES = 10;
/** Duties within so many percent are one. */
const SAME_DUTY = 3;
/** Idle readings of one mount come out within this of each other, K. */
const COLD_WITHIN_K = 3;

const last = (series: Series | null): number | null => {
  const y = series ? usable(series).y : new Float64Array();
  return y.length > 0 ? y[y.length - 1]! : null;
};
const list = (names: string[]) => names.join(', ');

function locks({ confirmed, watched }: PreflightInput): PreflightCheck {
  const open = confirmed.filter((lock) => !lock.done).map((lock) => lock.name);
  const off = watched.flatMap(({ name, unit, value, tolerance, series }) => {
    const now = last(series);
    return now === null || Math.abs(now - value) <= tolerance ? [] : [`${name} stands at ${fixed(now, 1)} ${unit}, not ${value}`];
  });
  const text = [...(open.length > 0 ? [`not confirmed: ${list(open)}`] : []), ...off].join('; ');
  if (text !== '') return { key: 'locks', ok: false, text };
  const count = confirmed.length + watched.length;
  return { key: 'locks', ok: true, text: count === 0 ? 'nothing is held in this study' : `${count} held as written` };
}

function room({ needsRoom, room: series, roomBand }: PreflightInput): PreflightCheck {
  const now = last(series);
  if (now === null) return { key: 'room', ok: needsRoom ? false : null, text: 'the room probe shows nothing' };
  if (roomBand && (now < roomBand.minC || now > roomBand.maxC))
    return { key: 'room', ok: false, text: `${fixed(now, 1)} °C, outside the band of ${roomBand.minC} to ${roomBand.maxC} °C` };
  return { key: 'room', ok: true, text: `${fixed(now, 1)} °C` };
}

function stuck(series: Series): boolean {
  const { y } = usable(series);
  return y.length >= STUCK_SAMPLES && y.every((value) => value === y[0]);
}

function sensors({ spots, room: air }: PreflightInput): PreflightCheck {
  if (spots.length === 0) return { key: 'sensors', ok: null, text: 'every spot is read by hand' };
  const roomC = last(air);
  // Whole-degree sensors of a cold part may well stand still; a fine one that does while others move is stuck.
  const fine = (series: Series) => usable(series).y.some((value) => Math.abs(value - Math.round(value)) > 1e-6);
  const wrong = spots.flatMap(({ name, series, limitC }) => {
    const now = last(series);
    if (now === null) return [`${name} shows nothing`];
    if (now < -20 || now > limitC + 40) return [`${name} shows ${fixed(now, 1)} °C, which cannot be`];
    if (roomC !== null && now < roomC - 3) return [`${name} shows ${fixed(now, 1)} °C, colder than the room`];
    if (fine(series!) && stuck(series!)) return [`${name} stands still at ${fixed(now, 1)} °C`];
    return [];
  });
  return wrong.length > 0
    ? { key: 'sensors', ok: false, text: wrong.join('; ') }
    : { key: 'sensors', ok: true, text: `${spots.length} show something plausible` };
}

function fans({ fans: all }: PreflightInput): PreflightCheck {
  if (all.length === 0) return { key: 'fans', ok: null, text: 'no fan shows its speed' };
  const still = all.filter(({ rpm, dutyPercent }) => (last(rpm) ?? 0) < 60 && !(dutyPercent === 0)).map((fan) => fan.name);
  if (still.length > 0) return { key: 'fans', ok: false, text: `${list(still)} shows no speed` };
  const odd = all.flatMap(({ name, rpm, dutyPercent, usual }) => {
    if (!usual || !(Math.abs(dutyPercent - usual.dutyPercent) <= SAME_DUTY)) return [];
    const share = last(rpm)! / dutyPercent / usual.perDuty - 1;
    if (Math.abs(share) <= usual.within) return [];
    return [
      `${name} turns ${fixed(100 * Math.abs(share), 0)} % ${share < 0 ? 'slower' : 'faster'} than it usually does for its duty: look at which header it is on`,
    ];
  });
  if (odd.length > 0) return { key: 'fans', ok: false, text: odd.join('; ') };
  return { key: 'fans', ok: true, text: all.map(({ name, rpm }) => `${name} ${fixed(last(rpm)!, 0)} rpm`).join(', ') };
}

function cold({ spots, room: air }: PreflightInput): PreflightCheck {
  const roomC = last(air);
  const known = spots.filter((spot) => spot.usualIdleRiseK !== null && last(spot.series) !== null);
  if (roomC === null || known.length === 0) return { key: 'cold', ok: null, text: 'no earlier idle to compare with' };
  const warm = known.flatMap(({ name, series, usualIdleRiseK }) => {
    const over = last(series)! - roomC - usualIdleRiseK!;
    return over > COLD_WITHIN_K ? [`${name} is ${fixed(over, 1)} K warmer than its usual idle`] : [];
  });
  return warm.length > 0
    ? { key: 'cold', ok: false, text: warm.join('; ') }
    : { key: 'cold', ok: true, text: 'as cold as before earlier runs' };
}

/** Beyond this age a rehearsal says little of the bench as it is, days. */
const REHEARSED_LONG_AGO = 90;

function rehearsal({ rehearsal: { simulated, newest } }: PreflightInput): PreflightCheck {
  const key = 'rehearsal';
  if (!newest)
    return simulated
      ? { key, ok: null, text: 'this simulated bench never rehearsed how its load goes off' }
      : { key, ok: false, text: 'this rig never showed that its load goes off: rehearse it at Bench, it takes a minute' };
  const days = Math.floor(newest.ageDays);
  const when = days < 1 ? 'today' : days === 1 ? 'yesterday' : `${days} days ago`;
  const wrong = newest.steps.filter((step) => !step.ok);
  if (wrong.length > 0) return { key, ok: false, text: `rehearsed ${when}: ${wrong.map((step) => step.sentence).join(' ')}` };
  const times = newest.steps.map(({ name, offAfterS }) => `${name} ${fixed(offAfterS ?? NaN, 1)} s`).join(', ');
  const old = days > REHEARSED_LONG_AGO;
  return { key, ok: old ? null : true, text: `rehearsed ${when}: ${times}${old ? '; time to do it again' : ''}` };
}

const SEAT: Record<PreflightInput['seat'], Omit<PreflightCheck, 'key'>> = {
  alike: { ok: true, text: 'this mount sits like the ones before' },
  off: { ok: false, text: 'the seat check found this mount unlike the ones before' },
  'not-checked': { ok: null, text: 'the seat of this mount was not checked' },
  'not-needed': { ok: null, text: 'no earlier mount to compare the seat with' },
};

/**
 * What to look at before a load is applied, in the order in which it is put right. Pure: the readings are what the rig showed while
 * idle, some seconds of them.
 */
export function preflight(input: PreflightInput): PreflightCheck[] {
  const armed = input.spots.length;
  return [
    locks(input),
    room(input),
    sensors(input),
    fans(input),
    {
      key: 'cut-outs',
      ok: armed > 0,
      text: armed > 0 ? `${armed} armed` : 'none can be armed: nothing is read by the rig, so never leave the load alone',
    },
    rehearsal(input),
    { key: 'seat', ...SEAT[input.seat] },
    cold(input),
  ];
}
