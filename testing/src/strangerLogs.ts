/** Seeded numbers around nought, one after the other not independent, as a bench's noise is. */
function wander(seed: number): () => number {
  let state = seed * 7919 + 17;
  let value = 0;
  return () => {
    state = (state * 48_271) % 2_147_483_647;
    value = 0.8 * value + 0.6 * (state / 1_073_741_823.5 - 1);
    return value;
  };
}

/** A run of a stranger's card as its logger saw it, second by second: rest, then load. */
export interface StrangerRun {
  seed: number;
  /** Settled rise of the chip under full load, K. */
  riseK: number;
  roomC?: number;
  /** Percent; it moves with the heat where null. */
  duty?: number | null;
  busy?: number;
  idleS?: number;
  lengthS?: number;
}

/** Values of one second. */
export interface StrangerSecond {
  s: number;
  chip: number;
  memory: number;
  room: number;
  duty: number;
  rpm: number;
  watts: number;
  busy: number;
}

/** The run, second by second; nothing in it is the product's own model of a card. */
export function strangerRun({
  seed,
  riseK,
  roomC = 22,
  duty = 55,
  busy = 100,
  idleS = 300,
  lengthS = 2400,
}: StrangerRun): StrangerSecond[] {
  const noise = wander(seed);
  let fast = 3;
  let slow = 2;
  return Array.from({ length: lengthS }, (_, s) => {
    const on = s >= idleS;
    const heat = on ? (riseK * busy) / 100 : 5;
    fast += (0.7 * heat - fast) / 30;
    slow += (0.3 * heat - slow) / 260;
    const rise = fast + slow;
    const turned = duty ?? Math.round(30 + 0.5 * rise);
    const room = roomC + s / 9000;
    return {
      s,
      chip: Math.round(room + rise + 0.3 * noise()),
      memory: 2 * Math.round((room + 0.7 * rise + 0.2 * noise()) / 2),
      room: Math.round(10 * (room + 0.05 * noise())) / 10,
      duty: turned,
      rpm: 5 * Math.round((32 * turned + 4 * noise()) / 5),
      watts: Math.round(10 * ((on ? 24 + 156 * (busy / 100) : 24) + 0.6 * noise())) / 10,
      busy: Math.max(0, Math.min(100, Math.round((on ? busy : 3) + noise()))),
    };
  });
}

const two = (n: number) => String(Math.floor(n)).padStart(2, '0');

/** The same readings as different loggers write them. */
export const WRITTEN: Record<'semicolons' | 'iso' | 'american' | 'kelvin', (rows: StrangerSecond[], startS: number) => string> = {
  /** Decimal commas, day first with dots, date and time apart, a preamble. `startS` is the local time as if it were UTC. */
  semicolons: (rows, startS) =>
    ['# kept by the bench', 'Datum;Uhrzeit;Die (°C);VRAM (°C);Ambient (°C);PWM (%);Fan A (rpm);Total power (W);Load (%)']
      .concat(
        rows.map((row) => {
          const at = new Date(1000 * (startS + row.s)).toISOString();
          const cells = [row.chip, row.memory, row.room, row.duty, row.rpm, row.watts, row.busy].map((value) =>
            String(value).replace('.', ','),
          );
          return [`${at.slice(8, 10)}.${at.slice(5, 7)}.${at.slice(0, 4)}`, at.slice(11, 19), ...cells].join(';');
        }),
      )
      .join('\r\n'),
  iso: (rows, startS) =>
    ['when,die,vram,ambient,pwm,fan a,total power,load', ',degC,degC,degC,%,rpm,W,%']
      .concat(
        rows.map((row) => {
          const at = new Date(1000 * (startS + row.s)).toISOString().slice(0, 19);
          return [`${at}-05:00`, row.chip, row.memory, row.room, row.duty, row.rpm, row.watts, row.busy].join(',');
        }),
      )
      .join('\n'),
  /** Month first, twelve hours, °F for every temperature without saying so. */
  american: (rows, startS) =>
    ['Timestamp\tdie temp\tvram temp\tambient temp\tfan %\tfan rpm\ttotal power W\tload %']
      .concat(
        rows.map((row) => {
          const at = new Date(1000 * (startS + row.s));
          const hour = at.getUTCHours();
          const stamp = `${at.getUTCMonth() + 1}/${at.getUTCDate()}/${at.getUTCFullYear()} ${hour % 12 || 12}:${two(at.getUTCMinutes())}:${two(at.getUTCSeconds())} ${hour < 12 ? 'AM' : 'PM'}`;
          const f = (c: number) => (c * 1.8 + 32).toFixed(1);
          return [stamp, f(row.chip), f(row.memory), f(row.room), row.duty, row.rpm, row.watts, row.busy].join('\t');
        }),
      )
      .join('\n'),
  /** Milliseconds by the header, kelvin and kilowatts. */
  kelvin: (rows) =>
    ['ms,die K,vram K,ambient K,duty %,fan rpm,total power kW,load %']
      .concat(
        rows.map((row) =>
          [
            1000 * row.s,
            row.chip + 273.15,
            row.memory + 273.15,
            (row.room + 273.15).toFixed(2),
            row.duty,
            row.rpm,
            row.watts / 1000,
            row.busy,
          ].join(','),
        ),
      ) // prettier-ignore
      .join('\n'),
};
