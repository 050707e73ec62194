import { familyOf, type Family } from '../families.ts';
import type { StepCaution } from '../definition/fitting.ts';

/** A caution that the tester confirms once per mount. The product advises; the tester decides. */
export interface Caution {
  key: string;
  text: string;
}

const COMMON: Caution[] = [
  {
    key: 'power',
    text: 'The machine is switched off and unplugged. Mains wiring and the inside of power supplies are outside this product: follow local electrical codes and leave them to licensed people.',
  },
  { key: 'static', text: 'Wrist strap or bare hand on the chassis first: electrostatic discharge kills parts without a trace.' },
  { key: 'hot', text: 'Parts above 60 °C burn on touch: let them cool. Sink edges are sharp.' },
];

const AT_STEPS: Record<Exclude<StepCaution, ''>, string> = {
  springs: 'Springs under the screws are tense: loosen crosswise, a little at a time.',
  sharp: 'Fins and edges are sharp: gloves, or hold it by its frame.',
  fans: 'Fans are clear of fingers and cables, and plugged where they were.',
  film: 'Protective films are peeled off both pad faces.',
  solvent: 'Solvents are flammable: ventilate, and keep them from hot parts and sparks.',
  conductive: 'It conducts electricity. What is around it is masked, and the mask was checked by eye before power comes back.',
  leak: 'The loop ran filled with the machine unpowered for as long as its maker says, an hour at least, and is dry at every fitting.',
  hot: 'Hot metal and liquid above 60 °C burn on touch: let them cool first.',
};

const SCRATCH: Caution = {
  key: 'scratch',
  text: 'This is a scratch drive and its data is backed up: sustained write tests wear a drive and destroy what is on it.',
};

const stepCaution = (key: Exclude<StepCaution, ''>): Caution => ({ key, text: AT_STEPS[key] });

/** Where no step says what it is that conducts. */
const CONDUCTS: Caution = {
  key: 'conductive',
  text: 'What is around a paste, pad or sheet that conducts electricity is masked, and the mask was checked by eye before power comes back.',
};

const BY_FAMILY: Record<Family, Caution[]> = {
  drive: [CONDUCTS, SCRATCH, stepCaution('film')],
  card: [CONDUCTS, stepCaution('fans'), stepCaution('springs')],
  regulator: [CONDUCTS, stepCaution('springs')],
};

/** What is confirmed before any mount of the family, where no steps are written down. */
export function cautionsFor(family: Family): Caution[] {
  return [...COMMON, ...BY_FAMILY[family]];
}

/** What is confirmed before the first step of any mount. */
export function cautionsBefore(family: Family): Caution[] {
  return familyOf(family).wearsOut ? [...COMMON, SCRATCH] : COMMON;
}

export function cautionAt(key: StepCaution): Caution | null {
  return key === '' ? null : stepCaution(key);
}
