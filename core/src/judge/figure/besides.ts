import type { JudgedRun } from '../types.ts';

/** What was recorded beside all that a figure is made of, by its name; a temperature stands as a rise over the room, K. */
export interface Beside {
  name: string;
  unit: string;
  value: number;
}

/** Of one run over the window of its load; temperatures are left out where no room was recorded, since rooms differ from day to day. */
export function besidesOf({ besides = {}, review }: JudgedRun): Beside[] {
  const { room, air, utilisationPercent } = review;
  const named = (review.besides ?? []).flatMap(({ key, mean }): Beside[] => {
    const channel = besides[key];
    if (!channel) return [];
    if (channel.unit !== '°C') return [{ ...channel, value: mean.value }];
    return room ? [{ name: `${channel.name}, over the room`, unit: 'K', value: mean.value - room.meanC }] : [];
  });
  return [
    ...named,
    ...(air && room ? [{ name: 'air at the intake, over the room', unit: 'K', value: air.intakeC - room.meanC }] : []),
    ...(utilisationPercent === null ? [] : [{ name: 'time busy', unit: '%', value: utilisationPercent }]),
  ];
}
