import type { LinkControl } from '@red-ember/contract';

export type ControlValue = number | string;

/** What can be set on a bench, and to what it is set now. */
export class Controls {
  private readonly values: Map<string, ControlValue>;

  constructor(
    private readonly known: readonly LinkControl[],
    start: Readonly<Record<string, ControlValue>>,
  ) {
    this.values = new Map(known.map((control) => [control.key, control.usual]));
    for (const [key, value] of Object.entries(start)) this.set(key, value);
  }

  number(key: string): number {
    return Number(this.values.get(key));
  }

  is(key: string, choice: string): boolean {
    return this.values.get(key) === choice;
  }

  /** @throws RangeError a control the bench does not have, or a value it cannot take */
  set(key: string, value: ControlValue): void {
    const control = this.known.find((candidate) => candidate.key === key);
    if (!control) throw new RangeError(`the bench has no control "${key}"`);
    if (control.choices) {
      if (!control.choices.includes(String(value))) throw new RangeError(`${control.label} is ${control.choices.join(' or ')}`);
      this.values.set(key, String(value));
      return;
    }
    const number = Number(value);
    if (!(number >= control.least! && number <= control.most!))
      throw new RangeError(`${control.label} goes from ${control.least} to ${control.most} ${control.unit}`);
    this.values.set(key, number);
  }
}

/** What a fan moves against full speed, as heat feels it: G ∝ n^0.7. A fan that stands moves nothing. */
export function fanFlow(rpm: number, fullRpm: number): number {
  return (Math.max(0, rpm) / fullRpm) ** 0.7;
}

/** What fins still shed by rising air alone, against what they shed with their fan at full speed. */
const STILL_AIR = 0.06;

/** Share of their full conductance that fins have in so much flow. */
export function finShare(flow: number): number {
  return Math.max(STILL_AIR, flow);
}

/** Sound of a fan, dB(A) at the place where it is measured: five times the tenfold logarithm of the speed. */
export function fanSoundDb(rpm: number, fullRpm: number, fullDb: number): number {
  return rpm < 60 ? -20 : fullDb + 50 * Math.log10(rpm / fullRpm);
}
