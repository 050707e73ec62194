import type { ArmedLimit } from './cutOut.ts';

/** Beyond its hold time an armed channel may be without a plausible value for this long, seconds. */
export const BLIND_BEYOND_HOLD_S = 10;
/** What a probe on a part can show, °C: an open or shorted one shows something else. */
const PLAUSIBLE_C = { least: -40, most: 400 };

export const isPlausible = (valueC: number): boolean => valueC >= PLAUSIBLE_C.least && valueC <= PLAUSIBLE_C.most;

/**
 * Watches the watch: a limit protects nothing while its channel shows nothing plausible. Kept on the server and on the rig, beside
 * the cut-out itself.
 */
export class BlindWatch {
  private readonly seenS = new Map<string, number>();

  /** @param limits those that `mayVanish` are not waited for */
  constructor(private readonly limits: readonly ArmedLimit[]) {}

  /** Begins to count at this moment: when the load comes on. */
  reset(tS: number): void {
    for (const { channel } of this.limits) this.seenS.set(channel, tS);
  }

  feed(channel: string, tS: number, valueC: number): void {
    if (isPlausible(valueC)) this.seenS.set(channel, tS);
  }

  /** The first armed limit whose channel has been blind for too long at `tS`, in a sentence; null where all see. */
  blind(tS: number): string | null {
    for (const { channel, name, holdS, mayVanish } of this.limits) {
      if (mayVanish) continue;
      const forS = tS - (this.seenS.get(channel) ?? tS);
      if (!this.seenS.has(channel)) this.seenS.set(channel, tS);
      if (forS >= holdS + BLIND_BEYOND_HOLD_S)
        return `${name} has shown nothing plausible for ${Math.round(forS)} s, so its cut-out would see nothing`;
    }
    return null;
  }
}
