import {
  CHANNELS,
  channelWords,
  isRecordedRole,
  READ_AS_WORDS,
  unitOfRole,
  type ChannelFactBody,
  type Run,
  type RunFactsBody,
  type SettingBody,
  type Study,
} from '@red-ember/contract';
import { notFound, unprocessable } from '../http/problems.ts';
import { sensorOf } from './sensors.ts';
import type { StoredChannel } from './store.ts';

/** What a channel was read from, as a tester calls it. */
const placeOf = ({ role, spotId }: Pick<StoredChannel, 'role' | 'spotId'>, study: Study): string =>
  study.spots.find((spot) => spot.id === spotId)?.name ?? (isRecordedRole(role) ? CHANNELS[role].label : 'nothing that is read');

const wrong = (pointer: string, sentence: string) => unprocessable(sentence, [{ pointer, sentence }]);

/**
 * The channels of a run as somebody says they were read.
 *
 * @param stored as they stand
 * @returns all of them, in their order
 * @throws HttpProblem 404 another study's spot; 422 a channel that is not there or is typed by hand, one thing read by two channels, or
 * a run that is left without any spot
 */
export function channelsPutRight(stored: readonly StoredChannel[], facts: readonly ChannelFactBody[], study: Study): StoredChannel[] {
  facts.forEach(({ key }, i) => {
    const channel = stored.find((candidate) => candidate.key === key);
    if (!channel || channel.role === 'hand')
      throw wrong(`/channels/${i}/key`, `This run has no recorded channel ${channelWords(channel ?? { key })}.`);
  });
  const channels = stored.map((channel): StoredChannel => {
    const fact = facts.find((candidate) => candidate.key === channel.key);
    if (!fact || channel.role === 'hand') return channel;
    const spotId = fact.role === 'spot' ? fact.spotId : null;
    const { readAs } = fact;
    // What it was read by stands as it is where it was read from the same place.
    if (fact.role === channel.role && spotId === channel.spotId) return { ...channel, readAs };
    if (spotId !== null && !study.spots.some((spot) => spot.id === spotId)) throw notFound('This spot');
    const unit = fact.role === 'spot' ? '°C' : isRecordedRole(fact.role) ? unitOfRole(fact.role, study.family) : channel.unit;
    return { key: channel.key, head: channel.head, role: fact.role, spotId, unit, readAs, ...sensorOf(study, { role: fact.role, spotId }) };
  });
  const seen = new Map<string, StoredChannel>();
  for (const channel of channels) {
    const { role, spotId } = channel;
    if (role === 'beside' || role === 'hand') continue;
    const what = spotId ?? role;
    const other = seen.get(what);
    if (other !== undefined)
      throw wrong('/channels', `${placeOf(channel, study)} cannot be read by ${channelWords(other)} and by ${channelWords(channel)}.`);
    seen.set(what, channel);
  }
  const spots = (list: readonly StoredChannel[]) => list.filter(({ role }) => role === 'spot' || role === 'hand').length;
  if (spots(stored) > 0 && spots(channels) === 0) throw wrong('/channels', 'Leave at least one channel that was read from a spot.');
  return channels;
}

/** What was held, with what is put right of it. @throws HttpProblem 422 what the study does not hold, or one that is said twice */
export function settingsPutRight(run: Run, facts: readonly SettingBody[], study: Study): Record<string, string> {
  const known = new Set([...Object.keys(run.settings), ...study.locks.map(({ name }) => name)]);
  const seen = new Set<string>();
  facts.forEach(({ name }, i) => {
    if (!known.has(name)) throw wrong(`/settings/${i}/name`, `${name} is not held in this study: write it down at Hold first.`);
    if (seen.has(name)) throw wrong(`/settings/${i}/name`, `${name} is given twice.`);
    seen.add(name);
  });
  return Object.fromEntries([...Object.entries(run.settings), ...facts.map(({ name, value }) => [name, value] as const)]);
}

/** What channels are read from or as otherwise than before, in words. */
export function channelsInWords(before: readonly StoredChannel[], after: readonly StoredChannel[], study: Study): string[] {
  return after.flatMap((channel) => {
    const was = before.find(({ key }) => key === channel.key)!;
    const [from, to] = [placeOf(was, study), placeOf(channel, study)];
    if (from === to && was.readAs === channel.readAs) return [];
    const unit = was.readAs === channel.readAs ? '' : `, its numbers ${READ_AS_WORDS[channel.readAs]}`;
    return [`${channelWords(channel)} read from ${to}${from === to ? '' : ` instead of ${from}`}${unit}`];
  });
}

export const settingsInWords = (before: Record<string, string>, { settings = [] }: RunFactsBody): string[] =>
  settings
    .filter(({ name, value }) => (before[name] ?? '') !== value)
    .map(({ name, value }) => `${name} ${value} instead of ${before[name] || 'nothing'}`);
