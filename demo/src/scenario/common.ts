import {
  type FittedPartBody,
  type HouseRulesBody,
  type ImpossibleBody,
  type JudgingBody,
  type LockBody,
  type SpotBody,
  type VariantBody,
} from '@red-ember/contract';
import { blankPart, blankPlan, blankSpot } from '@red-ember/study';

/**
 * Lantern Hill Dome, a made-up planetarium: its picture players sit in a gallery behind the dome where the air is 29 to 34 °C
 * during a show. Every number comes from the simulated bench or from general engineering knowledge.
 */
export const GALLERY = { name: 'gallery', airC: 31.5, powerTempCo: 0.0015 };

/** No factors and no order yet. */
export const UNPLANNED = { factors: [], impossible: [], plan: blankPlan(), parts: [], steps: [] };

const choices = (levels: Record<string, string>) => Object.entries(levels).map(([factor, level]) => ({ factor, level }));

/** These levels cannot be had together. */
export function cannot(levels: Record<string, string>, reason: string): ImpossibleBody {
  return { levels: choices(levels), reason };
}

/** A variant that stands at levels of the factors and is named after them. */
export function variantAt(id: string, subjectId: string, levels: Record<string, string>, change: Partial<VariantBody> = {}): VariantBody {
  return {
    id,
    name: Object.values(levels).join(', '),
    subjectId,
    isReference: false,
    setup: '',
    notes: '',
    levels: choices(levels),
    repeats: 2,
    ...change,
  };
}

export const rules: HouseRulesBody = {
  basis: 'rise',
  figure: 'settled-mean',
  fans: 'not-applicable',
  load: 'worst-case',
  duration: 'until-settled',
  place: 'open-bench',
  sensorOfRecord: 'attached',
  stress: 'as-used',
  ladder: 'one-change',
  paste: 'spread',
  practicalK: 1,
  coverage: 0.95,
  roomMinC: 20.5,
  roomMaxC: 25,
};

export function spot(id: string, name: string, channel: string, change: Partial<SpotBody>): SpotBody {
  return { ...blankSpot(id, name, channel), ...change };
}

/** Held by the tester's word. */
export function held(name: string, value: string, overrides: LockBody['overrides'] = []): LockBody {
  return { name, value, unit: '', tolerance: null, channel: '', overrides };
}

/** Held and watched by a channel. */
export function watched(
  name: string,
  value: number,
  unit: string,
  tolerance: number,
  channel: string,
  overrides: LockBody['overrides'] = [],
): LockBody {
  return { name, value: String(value), unit, tolerance, channel, overrides };
}

/** A variant by name alone. */
export const variant = (id: string, subjectId: string, name: string, setup: string, isReference = false, notes = ''): VariantBody => ({
  id,
  name,
  subjectId,
  isReference,
  setup,
  notes,
});

/** A part of one variant, with what it costs and weighs. */
export const bought = (
  id: string,
  variantId: string,
  name: string,
  kind: FittedPartBody['kind'],
  price: number,
  weightG: number,
): FittedPartBody => ({
  ...blankPart(id, name),
  variantId,
  kind,
  price,
  weightG,
});

/** Readers of a card study: what each of them weighs. */
export const readers: JudgingBody = {
  marginK: 5,
  loads: [],
  profiles: [
    { id: 'coolest', name: 'Wants it coolest', weights: [{ criterion: 'temperature', weight: 1 }] },
    {
      id: 'quiet',
      name: 'Sits beside it',
      weights: [
        { criterion: 'noise', weight: 3 },
        { criterion: 'temperature', weight: 1 },
      ],
    },
    {
      id: 'purse',
      name: 'Pays for it',
      weights: [
        { criterion: 'cost', weight: 2 },
        { criterion: 'temperature', weight: 1 },
        { criterion: 'weight', weight: 1 },
      ],
    },
  ],
};
