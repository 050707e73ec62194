/** What can be found: in the order in which it is shown. */
export const HIT_KINDS = [
  'study',
  'part',
  'variant',
  'fitted',
  'kept',
  'spot',
  'setting',
  'mount',
  'run',
  'note',
  'survey',
  'instrument',
] as const;
export type HitKind = (typeof HIT_KINDS)[number];

/** One thing of the bench in which every word stands. */
export interface SearchHit {
  kind: HitKind;
  /** What it is called. */
  title: string;
  /** Where the words stand, beside its name; may be empty. */
  text: string;
  /** Empty for what belongs to no study. */
  studyId: string;
  studyTitle: string;
  /** Run, instrument, or whatever else the kind is shown by; empty where the study says it. */
  id: string;
  /** When it happened or was last changed, ISO; empty where nobody knows. */
  at: string;
}

export interface SearchHits {
  /** The words that were looked for, as they were understood. */
  words: string[];
  hits: SearchHit[];
  /** Kinds of which more is there than is shown. */
  more: HitKind[];
}
