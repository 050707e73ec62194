import { notedNumber, notedTemperature, type Degrees, type Noted, type NotedText, type ScratchNote } from '@red-ember/core';

/** A note as it is typed: text throughout, so that nothing of what somebody writes is lost on the way. */
export interface TypedNote {
  room: string;
  intake: string;
  exhaust: string;
  power: string;
  spots: { name: string; temperature: string; limit: string }[];
  otherAir: string;
  otherPower: string;
  levels: string;
  floor: string;
  joint: { kind: 'pad' | 'paste'; thick: string; gap: string; conductivity: string; area: string; heat: string };
}

export const BLANK_NOTE: TypedNote = {
  room: '',
  intake: '',
  exhaust: '',
  power: '',
  spots: [{ name: '', temperature: '', limit: '' }],
  otherAir: '34 C',
  otherPower: '',
  levels: '',
  floor: '',
  joint: { kind: 'pad', thick: '', gap: '', conductivity: '', area: '', heat: '' },
};

export interface ReadNote {
  note: ScratchNote;
  /** What could not be read, by the name of its field. */
  unclear: Record<string, string>;
}

/** What a typed note says. A field that cannot be read is named and left out; the rest is answered all the same. */
export function readNote(typed: TypedNote, degrees: Degrees): ReadNote {
  const unclear: Record<string, string> = {};
  const taken = (field: string, read: NotedText): Noted | null => {
    if (read.kind === 'unclear') unclear[field] = read.why;
    return read.kind === 'value' ? read.noted : null;
  };
  const temperature = (field: string, text: string) => taken(field, notedTemperature(text, degrees));
  const number = (field: string, text: string) => taken(field, notedNumber(text));
  const powerW = number('power', typed.power);
  const spots = typed.spots.flatMap((spot, i): ScratchNote['spots'] => {
    const tempC = temperature(`spots/${i}/temperature`, spot.temperature);
    const limit = temperature(`spots/${i}/limit`, spot.limit);
    return tempC ? [{ name: spot.name.trim() || `Spot ${i + 1}`, tempC, limitC: limit?.value ?? null }] : [];
  });
  const levels = typed.levels
    .split(/[;\s]+(?!±)/)
    .filter((text) => /\d/.test(text))
    .flatMap((text) => number('levels', text)?.value ?? []);
  const { joint } = typed;
  const parts = {
    thick: number('joint/thick', joint.thick),
    gap: joint.kind === 'pad' ? number('joint/gap', joint.gap) : null,
    conductivity: number('joint/conductivity', joint.conductivity),
    area: number('joint/area', joint.area),
    heat: number('joint/heat', joint.heat) ?? powerW,
  };
  const whole = parts.thick && parts.conductivity && parts.area && parts.heat && (joint.kind === 'paste' || parts.gap);
  return {
    unclear,
    note: {
      room: temperature('room', typed.room),
      intake: temperature('intake', typed.intake),
      exhaust: temperature('exhaust', typed.exhaust),
      powerW,
      spots,
      otherAirC: temperature('otherAir', typed.otherAir)?.value ?? null,
      otherPowerW: number('otherPower', typed.otherPower)?.value ?? null,
      levels,
      floorDb: number('floor', typed.floor)?.value ?? null,
      joint: whole
        ? {
            thickMm: parts.thick!.value,
            gapMm: parts.gap?.value ?? null,
            conductivityWPerMK: parts.conductivity!.value,
            areaMm2: parts.area!.value,
            heatW: Math.max(0, parts.heat!.value),
          }
        : null,
    },
  };
}

/** A note in a line of text, as a study keeps it. */
export function noteInWords(typed: TypedNote): string {
  const said: [string, string][] = [
    ['room', typed.room],
    ['intake', typed.intake],
    ['exhaust', typed.exhaust],
    ['power', typed.power],
    ...typed.spots.map(({ name, temperature }, i): [string, string] => [name.trim() || `spot ${i + 1}`, temperature]),
    ['levels', typed.levels],
    ['room with everything off', typed.floor],
  ];
  return said
    .filter(([, text]) => text.trim() !== '')
    .map(([what, text]) => `${what} ${text.trim()}`)
    .join(', ');
}
