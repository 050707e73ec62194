import { decimalsFor, fixed } from '../format/measured.ts';
import type { OffNormal } from './offNormal.ts';

export type SuspectKey =
  'fan-plug' | 'fan-duty' | 'fan-free' | 'room' | 'drop-outs' | 'spikes' | 'lag' | 'place' | 'pad' | 'power' | 'clock';

/** What may be wrong, what says so, and what to look at first. */
export interface BenchSuspect {
  key: SuspectKey;
  text: string;
  look: string;
  /** Of the departure that speaks for it most. */
  times: number;
}

/** "34 % slower": how far a value lies from what is usual, in the words for above and below. */
const apartFrom = ({ value, normal }: OffNormal, more: string, less: string): string =>
  `${fixed(100 * Math.abs(value / normal - 1), 0)} % ${value > normal ? more : less}`;

/** A spot that departs alone against so many that were read: its sensor, and not the part. */
const ALONE_OF = 3;

/**
 * Ranks what may be wrong from what departs. A fan that shows nothing, samples that are missing and a room that warms speak for themselves
 * and come before what they bring about elsewhere; of what is left, one spot alone speaks of its sensor, several speak of what they share.
 *
 * @param spotNames of all spots that were read, by id
 */
export function suspectsOf(
  departures: readonly OffNormal[],
  spotNames: Readonly<Record<string, string>>,
  fanNames: Readonly<Record<string, string>>,
): BenchSuspect[] {
  const of = (...keys: OffNormal['key'][]) => departures.filter(({ key }) => keys.includes(key));
  const spot = (id: string) => spotNames[id] ?? id;
  const fan = (id: string) => fanNames[id] ?? id;
  const out: BenchSuspect[] = [];
  const say = (key: SuspectKey, by: OffNormal | undefined, text: string, look: string) => {
    if (by) out.push({ key, text, look, times: by.times });
  };
  const [still] = of('turns');
  if (still?.value === 0)
    say('fan-plug', still, `${fan(still.id)} shows no speed under load`, 'Its plug and its wires, whether it turns, and how fast.');
  const [speed] = of('speed');
  if (speed)
    say(
      'fan-duty',
      speed,
      `${fan(speed.id)} turns ${apartFrom(speed, 'faster', 'slower')} than usual for its duty`,
      'Which header it is plugged to, and what that header follows.',
    );
  const [apart] = of('apart');
  if (apart) say('fan-free', apart, `${fan(apart.id)} no longer moves with the first fan`, 'Whether it is locked like the other.');
  const missing = of('missing').filter(({ value, normal }) => value > normal);
  if (missing[0])
    say(
      'drop-outs',
      missing[0],
      `${fixed(100 * missing[0].value, 1)} % of the samples of ${spot(missing[0].id)} did not come`,
      'Its plug and its cable.',
    );
  const [room] = of('roomRise');
  if (room)
    say(
      'room',
      room,
      `the room ${room.value > 0 ? 'warmed' : 'cooled'} by ${fixed(Math.abs(room.value), 1)} K under load`,
      'What heats or airs it.',
    );
  const spikes = of('spikes').filter(({ value, normal }) => value > normal);
  if (spikes[0])
    say(
      'spikes',
      spikes[0],
      `${fixed(spikes[0].value, 0)} spikes an hour at ${spot(spikes[0].id)}${spikes.length > 1 ? ' and elsewhere' : ''}`,
      spikes.length > 1 ? 'Work in the background, and what switches nearby.' : 'Its wiring.',
    );
  const late = of('early', 'third').filter(({ key, value, normal }) => (key === 'early' ? value < normal : value > normal));
  const heat = of('perWatt', 'beside', 'idle');
  const spots = [...new Set(heat.map(({ id }) => id))];
  const [lone] = late;
  if (lone && new Set(late.map(({ id }) => id)).size < Math.max(2, Object.keys(spotNames).length))
    say(
      'lag',
      lone,
      lone.key === 'early'
        ? `${spot(lone.id)} was at ${fixed(100 * lone.value, 0)} % of its ten-minute rise after one minute, usually ${fixed(100 * lone.normal, 0)} %`
        : `${spot(lone.id)} took ${fixed(lone.value, 0)} s to a third of its ten-minute rise, usually ${fixed(lone.normal, 0)} s`,
      'Whether its sensor is still bedded in and pressed on.',
    );
  // What a fan or a room did already explains that everything is warmer.
  const explained = out.some(({ key }) => ['fan-plug', 'fan-duty', 'fan-free', 'room'].includes(key));
  const [farthest] = heat;
  if (farthest) {
    const how = {
      idle: `stood ${fixed(Math.abs(farthest.value - farthest.normal), 1)} K ${farthest.value > farthest.normal ? 'warmer' : 'cooler'} than usual at rest`,
      beside: `rose ${apartFrom(farthest, 'more', 'less')} than usual against the other spots`,
      perWatt: `rose ${apartFrom(farthest, 'more', 'less')} than usual for each watt`,
    };
    const words = `${spot(farthest.id)} ${how[farthest.key as keyof typeof how]}`;
    const alone = spots.length === 1 && Object.keys(spotNames).length >= ALONE_OF;
    const pad = () => say('pad', farthest, words, 'Pads and paste: films, gaps, screws.');
    const place = () => say('place', farthest, words, 'Whether its sensor sits where it should.');
    const ranked = alone || farthest.value < farthest.normal ? [place, pad] : [pad, place];
    if (!explained) ranked.forEach((one) => one());
  }
  const [power] = of('power');
  const watts = (value: number) => `${fixed(value, decimalsFor(Math.abs(power!.value - power!.normal)))} W`;
  if (power) say('power', power, `it took ${watts(power.value)}, usually ${watts(power.normal)}`, 'Its limits, its load, and what fed it.');
  return out;
}
