import type { ArmedLimit } from '@red-ember/core';
import { isRecordedRole, type RigStatus, type Study, type VanishChoice, type VariantBody } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import type { NewChannel } from '../runs/store.ts';

/**
 * Limits that are armed: every spot's that a rig reads by itself.
 *
 * @param onVanish where the run goes on recording a part that vanishes, the part's own sensors may fall silent with it, as long as
 * another one still watches
 */
export function armedLimits(study: Study, onVanish: VanishChoice = 'cut-out'): ArmedLimit[] {
  const own = (spot: Study['spots'][number]) => spot.method === 'own';
  const watched = logged(study).some((spot) => !own(spot));
  return logged(study).map((spot) => ({
    channel: spot.channel,
    name: spot.name,
    limitC: spot.cutOutC,
    holdS: spot.cutOutHoldS,
    ...(onVanish === 'record' && watched && own(spot) ? { mayVanish: true } : {}),
  }));
}

/** Spots that a rig reads by itself; the others are typed in. */
const logged = (study: Study) => study.spots.filter((spot) => !spot.byHand);

/** Channels of a run on a rig: every spot's, by the rig or by hand, and everything else that the rig offers. */
export function rigChannels(study: Study, offered: { key: string; unit: string; byHand?: boolean }[]): NewChannel[] {
  const spots = study.spots.map((spot): NewChannel => ({
    key: spot.channel,
    role: spot.byHand ? 'hand' : 'spot',
    spotId: spot.id,
    unit: '°C',
    sensor: spot.sensor,
    instrumentChannelId: spot.instrumentChannelId,
  }));
  const others = offered
    .filter((channel) => !channel.byHand && !spots.some((spot) => spot.key === channel.key))
    .map((channel): NewChannel => ({
      key: channel.key,
      role: isRecordedRole(channel.key) ? channel.key : 'beside',
      spotId: null,
      // Work is counted as the study's family counts it, whatever a feeder calls it.
      unit: channel.key === 'throughput' ? familyOf(study.family).throughputUnit : channel.unit,
      sensor: channel.key,
      instrumentChannelId: channel.key === 'room' ? study.roomChannelId : null,
    }));
  return [...spots, ...others];
}

/** What a rig lacks to run a variant, in a sentence; null where it lacks nothing. */
export function whatLacks(study: Study, variant: VariantBody, rig: RigStatus): string | null {
  // A real bench is what is mounted on it; only a simulated one has to be told.
  if (rig.simulated && !rig.setups.some((setup) => setup.key === variant.setup))
    return `${variant.name} has no set-up on ${rig.name}. Choose one at Plan.`;
  const missing = logged(study).find((spot) => !rig.channels.some((channel) => channel.key === spot.channel));
  if (missing) return `${missing.name} is to be read by channel ${missing.channel}, which ${rig.name} does not have.`;
  const otherUnit = rig.channels.find(
    (channel) => channel.unit !== '°C' && (channel.key === 'room' || logged(study).some((spot) => spot.channel === channel.key)),
  );
  return otherUnit ? `Channel ${otherUnit.key} of ${rig.name} reads ${otherUnit.unit}; temperatures must come in °C.` : null;
}
