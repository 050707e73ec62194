import type { RunChannel, Study } from '@red-ember/contract';
import type { NewChannel } from './store.ts';

/** What read a channel of a run that came from a file, by what the study says of its spots and its room. */
export function sensorOf(
  study: Study,
  { role, spotId }: Pick<RunChannel, 'role' | 'spotId'>,
): Pick<NewChannel, 'sensor' | 'instrumentChannelId'> {
  const spot = role === 'spot' ? study.spots.find((candidate) => candidate.id === spotId) : undefined;
  return {
    sensor: spot?.sensor ?? role,
    instrumentChannelId: role === 'room' ? study.roomChannelId : (spot?.instrumentChannelId ?? null),
  };
}

/** A spot of a run that somebody reads by hand. */
export function handChannel(study: Study, spotId: string): NewChannel {
  const { channel, sensor, instrumentChannelId } = study.spots.find((spot) => spot.id === spotId)!;
  return { key: channel || `hand-${spotId}`, role: 'hand', spotId, unit: '°C', sensor, instrumentChannelId };
}
