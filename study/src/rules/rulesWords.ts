import type { HouseRulesEntry } from '../definition/ask.ts';
import type { StudyDefinition } from '../definition/study.ts';

/** One of the schools a bench can follow, with what it costs. */
export interface School<T extends string = string> {
  value: T;
  label: string;
  /** Why the school exists and what it costs, in one sentence. */
  why: string;
  /** On the line that every figure carries; empty where it goes without saying. */
  short: string;
}

type Choice = Exclude<keyof HouseRulesEntry, 'practicalK' | 'coverage' | 'roomMinC' | 'roomMaxC'>;

/** The questions on which benches differ; the usual answer first. */
export const HOUSE_RULES: { [K in Choice]: { question: string; schools: School<HouseRulesEntry[K]>[] } } = {
  basis: {
    question: 'Temperatures are reported as',
    schools: [
      {
        value: 'rise',
        label: 'rise over room, sample by sample',
        short: 'rise over room',
        why: 'Takes a drifting room out. Needs a room probe in every run.',
      },
      {
        value: 'held-room',
        label: 'absolute, room held in a band',
        short: 'absolute, room held',
        why: 'Can be held against a data sheet at once. Costs a room that has to be kept in its band.',
      },
      {
        value: 'as-found',
        label: 'as found, room not recorded',
        short: 'as found',
        why: 'Needs no probe. Costs ±2 K of doubt, and days cannot be compared.',
      },
    ],
  },
  figure: {
    question: 'The figure of a run is',
    schools: [
      {
        value: 'settled-mean',
        label: 'settled mean of the last five minutes',
        short: 'settled mean',
        why: 'Steady and repeatable. The peak stays visible beside it.',
      },
      {
        value: 'settled-value',
        label: 'settled value, where the fitted approach ends',
        short: 'settled value',
        why: 'Fair to heavy sinks and to runs that were cut short. Costs the doubt of the fit.',
      },
      {
        value: 'peak',
        label: 'peak of the last five minutes',
        short: 'peak',
        why: 'Follows the worst moment. Costs repeatability: a longer window has a higher peak.',
      },
      {
        value: 'hottest',
        label: 'hottest of several sensors',
        short: 'hottest of several sensors',
        why: 'One figure a board, whichever place is worst. Costs a like-for-like place: another spot may be hottest on the other side.',
      },
    ],
  },
  load: {
    question: 'The load is',
    schools: [
      {
        value: 'application',
        label: 'a real application',
        short: 'real application',
        why: 'What the part will do. Costs steadiness: scenes differ.',
      },
      {
        value: 'worst-case',
        label: 'a synthetic worst case',
        short: 'synthetic worst case',
        why: 'Steady and repeatable. Hotter than any real use, so it is labelled as such.',
      },
    ],
  },
  fans: {
    question: 'Fans are',
    schools: [
      {
        value: 'locked',
        label: 'locked at equal duty',
        short: 'fans locked',
        why: 'Cooling shows as temperature. Costs the noise: a quieter fan gets no credit.',
      },
      {
        value: 'as-shipped',
        label: 'as shipped, automatic',
        short: 'fans as shipped',
        why: 'What a buyer gets. A better cooler may only be quieter and not cooler.',
      },
      {
        value: 'equal-noise',
        label: 'set to equal noise',
        short: 'equal noise',
        why: 'Fair to the ear. Costs a sweep of every variant against a sound meter.',
      },
      { value: 'not-applicable', label: 'not there', short: 'no fans', why: 'Nothing moves the air but warmth.' },
    ],
  },
  duration: {
    question: 'A load lasts',
    schools: [
      {
        value: 'until-settled',
        label: 'until settled, with a cap',
        short: '',
        why: 'As long as it must, and no longer. Runs differ in length.',
      },
      {
        value: 'fixed',
        label: 'fixed minutes',
        short: 'fixed minutes',
        why: 'All runs alike. Wastes time, or reads a part that still climbs.',
      },
    ],
  },
  place: {
    question: 'The part sits',
    schools: [
      {
        value: 'open-bench',
        label: 'on an open bench',
        short: 'open bench',
        why: 'Judges the cooler alone. Says little of a warm enclosure.',
      },
      {
        value: 'enclosure',
        label: 'inside an enclosure',
        short: 'in an enclosure',
        why: 'Judges cooler and enclosure together, and cannot tell them apart.',
      },
      { value: 'both', label: 'on both', short: 'bench and enclosure', why: 'Tells them apart. Costs every run twice.' },
    ],
  },
  sensorOfRecord: {
    question: 'The sensor of record is',
    schools: [
      {
        value: 'attached',
        label: 'an attached thermocouple',
        short: 'attached sensors',
        why: 'Known place and accuracy. Costs care in fixing it.',
      },
      {
        value: 'own',
        label: 'the part’s own sensor',
        short: 'the part’s own sensors',
        why: 'Always there. Its place and offset are unknown, so parts of two makes cannot be compared.',
      },
      {
        value: 'infrared',
        label: 'infrared, an estimate',
        short: 'infrared estimate',
        why: 'Touches nothing. Reads surfaces only, and shiny ones wrongly.',
      },
    ],
  },
  stress: {
    question: 'The part is driven',
    schools: [
      { value: 'as-used', label: 'as used', short: '', why: 'Figures hold for real use. Small differences stay small.' },
      {
        value: 'pushed',
        label: 'harder on purpose',
        short: 'pushed on purpose',
        why: 'Opens up the gaps. Says so on every figure, because nobody uses it like that.',
      },
    ],
  },
  ladder: {
    question: 'Changes are made',
    schools: [
      { value: 'one-change', label: 'one at a time, kept', short: '', why: 'Few runs. Blind to changes that work only together.' },
      {
        value: 'full',
        label: 'in full combination',
        short: 'full combination',
        why: 'Shows what works only together. Costs a run for every combination.',
      },
    ],
  },
  paste: {
    question: 'Paste is put on',
    schools: [
      { value: 'spread', label: 'spread over the whole bare die', short: '', why: 'No bare corner. Costs a steady hand.' },
      { value: 'dot', label: 'as a dot under a lid', short: 'paste as a dot', why: 'Mounting pressure spreads it. Not for a bare die.' },
    ],
  },
};

/** The line that every figure of a study carries. */
export function rulesWords({ rules }: Pick<StudyDefinition, 'rules'>): string {
  const shorts = (Object.keys(HOUSE_RULES) as Choice[]).map(
    (key) => (HOUSE_RULES[key].schools as School[]).find((school) => school.value === rules[key])?.short ?? '',
  );
  const line = [
    ...shorts.filter(Boolean),
    `${Math.round(rules.coverage * 1000) / 10} %`,
    `matters from ${rules.practicalK.toFixed(1)} K`,
  ].join(' · ');
  return line[0]!.toUpperCase() + line.slice(1);
}

/** What a study says to one of the questions, in words. */
export function ruleInWords(rules: HouseRulesEntry, key: keyof typeof HOUSE_RULES): string {
  return (HOUSE_RULES[key].schools as School[]).find((school) => school.value === rules[key])?.label ?? rules[key];
}
