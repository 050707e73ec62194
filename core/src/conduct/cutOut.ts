import { requireFinite, requireNotNegative } from '../errors.ts';

export interface ArmedLimit {
  /** Channel that is watched. */
  channel: string;
  /** Name shown to the tester. */
  name: string;
  limitC: number;
  /** Seconds the limit must be exceeded without a break. */
  holdS: number;
  /** The part reads it itself and may vanish, as was chosen for the run: its silence alone does not take the load off. */
  mayVanish?: boolean;
}

export interface CutOut {
  atS: number;
  channel: string;
  reason: string;
}

/**
 * Watches armed limits sample by sample and says when to stop the load. Once tripped it stays tripped. Kept on the server and
 * on the rig, never only in the browser.
 */
export class CutOutWatch {
  private readonly since = new Map<string, number>();
  private readonly byChannel: Map<string, ArmedLimit>;
  tripped: CutOut | null = null;

  /** @throws RangeError a limit or hold time that is no number, or a negative hold time */
  constructor(limits: readonly ArmedLimit[]) {
    for (const limit of limits) {
      requireFinite(limit.limitC, `cut-out of ${limit.name}`);
      requireNotNegative(limit.holdS, `hold time of ${limit.name}`);
    }
    this.byChannel = new Map(limits.map((limit) => [limit.channel, limit]));
  }

  get limits(): ArmedLimit[] {
    return [...this.byChannel.values()];
  }

  /** Takes one sample in time order; a missing value neither trips nor clears. Returns the trip the moment it happens. */
  feed(channel: string, tS: number, valueC: number): CutOut | null {
    const limit = this.byChannel.get(channel);
    if (!limit || this.tripped || Number.isNaN(valueC)) return null;
    if (valueC <= limit.limitC) {
      this.since.delete(channel);
      return null;
    }
    const since = this.since.get(channel) ?? tS;
    this.since.set(channel, since);
    if (tS - since < limit.holdS) return null;
    this.tripped = {
      atS: tS,
      channel,
      reason: `${limit.name} was above its cut-out of ${limit.limitC} °C for ${limit.holdS} s`,
    };
    return this.tripped;
  }
}
