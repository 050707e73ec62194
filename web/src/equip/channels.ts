import { accuracyHalfWidth, calibrate, calibrationDoubt, type SensorDoubt } from '@red-ember/core';
import type { Calibration, Instrument, InstrumentChannelBody, SpotBody } from '@red-ember/contract';

export interface KnownChannel {
  instrument: Instrument;
  channel: InstrumentChannelBody;
  /** Newest first. */
  calibrations: Calibration[];
}

/** Temperature channels of all instruments, by id. */
export function temperatureChannels(instruments: readonly Instrument[]): Map<string, KnownChannel> {
  return new Map(
    instruments.flatMap((instrument) =>
      instrument.channels
        .filter((channel) => channel.quantity === 'temperature')
        .map((channel) => [
          channel.id,
          { instrument, channel, calibrations: instrument.calibrations.filter((calibration) => calibration.channelId === channel.id) },
        ]),
    ),
  );
}

/** Half-width of a channel's accuracy at a reading, K; null while its figures are half typed. */
export function statedK(channel: InstrumentChannelBody, atC: number): number | null {
  try {
    return accuracyHalfWidth(
      { percentOfReading: channel.percentOfReading, fixedK: channel.fixed, thermocouple: channel.thermocouple },
      atC,
    );
  } catch {
    return null;
  }
}

/** What a spot takes over from an instrument's channel: its name and how good it is near the spot's limit. */
export function fromChannel({ channel }: KnownChannel, spot: SpotBody): Partial<SpotBody> {
  const accuracyK = statedK(channel, spot.limitC);
  return {
    instrumentChannelId: channel.id,
    sensor: channel.name,
    ...(accuracyK === null ? {} : { accuracyK: Math.round(accuracyK * 100) / 100 }),
    resolutionK: channel.resolution,
  };
}

/** What a calibration leaves in doubt at a temperature: its own fit and its references. */
export function leftByCalibration(calibration: Calibration, atC: number): { u: number; dof: number } {
  return calibrationDoubt(calibrate(calibration.points), calibration.referenceAccuracyK, atC);
}

/** Everything in doubt about a sensor at a reading, for a budget. */
export function doubtOf(
  figures: { accuracyK: number; resolutionK: number; placementK: number },
  known: KnownChannel | undefined,
  atC: number,
): SensorDoubt {
  const newest = known?.calibrations[0];
  return {
    accuracyK: figures.accuracyK,
    resolutionK: figures.resolutionK,
    placementK: figures.placementK,
    driftK: known?.channel.drift ?? 0,
    calibration: newest ? leftByCalibration(newest, atC) : null,
  };
}

/** The calibration of a channel on a day: none, good, or fallen due. */
export function calibrationState(known: KnownChannel, today: string): { words: string; tone: 'plain' | 'caution' | 'heat' } {
  const newest = known.calibrations[0];
  if (!newest) return { words: 'never calibrated', tone: 'plain' };
  return newest.dueOn < today
    ? { words: `calibrated ${newest.madeOn}, due since ${newest.dueOn}`, tone: 'heat' }
    : { words: `calibrated ${newest.madeOn}, due ${newest.dueOn}`, tone: 'plain' };
}
