import type { HouseRulesEntry } from './definition/ask.ts';

/** What the product knows of a family of parts. Everything that differs by family stands here and is read from here. */
export interface FamilyKnowledge {
  name: string;
  /** In which the work of a part is counted, as the benches send it. */
  throughputUnit: string;
  /** The load wears the part and destroys its data: a scratch part, known by its serial number, and a caution wherever it is loaded. */
  wearsOut: boolean;
  /** It publishes temperatures of its own, at which it warns and throttles. */
  publishesTemperatures: boolean;
  /** What a new study starts from: some settle fast and some slow, fans matter on some and not on others. */
  start: { fans: HouseRulesEntry['fans']; load: HouseRulesEntry['load']; loadName: string; capS: number };
}

const KNOWN = {
  drive: {
    name: 'M.2 drive',
    throughputUnit: 'MB/s',
    wearsOut: true,
    publishesTemperatures: true,
    start: { fans: 'not-applicable', load: 'worst-case', loadName: 'Sustained write', capS: 3600 },
  },
  card: {
    name: 'Graphics card',
    throughputUnit: 'frames/s',
    wearsOut: false,
    publishesTemperatures: false,
    start: { fans: 'locked', load: 'application', loadName: 'Load', capS: 3600 },
  },
  regulator: {
    name: 'Voltage regulator',
    throughputUnit: 'renders/h',
    wearsOut: false,
    publishesTemperatures: false,
    start: { fans: 'locked', load: 'application', loadName: 'Load', capS: 5400 },
  },
} satisfies Record<string, FamilyKnowledge>;

export type Family = keyof typeof KNOWN;
export const FAMILIES = Object.keys(KNOWN) as Family[];

export const familyOf = (family: Family): FamilyKnowledge => KNOWN[family];
