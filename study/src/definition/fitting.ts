import { pasteLayer, type ListedPart } from '@red-ember/core';
import type { LevelChoiceEntry } from './plan.ts';

/** What a part or a step belongs to: a level of a factor, one variant, or every variant (neither). */
export interface BelongingEntry {
  level: LevelChoiceEntry | null;
  variantId: string | null;
}

/** What a pad is cut to, millimetres. */
export interface PadCutEntry {
  widthMm: number;
  heightMm: number;
  thickMm: number;
}

/** A paste on a bare die, or under a lid. */
export interface PasteEntry {
  areaMm2: number;
  bondLineMm: number;
  densityGPerCm3: number;

  /** What takes it off. */
  remover: string;
  dryMin: number;

  /** Through the joint under load; without it nothing is said of how well pastes can be told apart. */
  heatW?: number;
}

/** Something that is put on: a cooler, a pad, a tube of paste. */
export interface FittedPartEntry extends BelongingEntry {
  id: string;
  name: string;
  kind: PartKind;

  /** Pieces on one mount. */
  quantity: number;

  /** Comes off whole and goes on again. */
  reusable: boolean;

  /** For one piece; of paste, for one gram. */
  price: number;
  weightG: number;

  /** Sound level it adds by itself at the seat, dB(A); null where it makes none or nobody measured. */
  noiseDb: number | null;

  /** Conducts electricity: what is around it is masked. */
  conductive: boolean;

  /** Holds liquid: tested for leaks before power. */
  liquid: boolean;

  /** The cover on the board map that it is; empty where it is on none. */
  coverId: string;
  pad: PadCutEntry | null;
  paste: PasteEntry | null;

  /** On its label, where it has one. */
  serial?: string;

  /** Whatever else the tester wants to know of it again. */
  note?: string;

  /** Words that it is found by among others, commas between them. */
  tags?: string;
}

/** Tags one by one, each once, as they were written first. */
export function tagsOf({ tags = '' }: Pick<FittedPartEntry, 'tags'>): string[] {
  const said = tags.split(',').flatMap((tag) => tag.trim() || []);
  return said.filter((tag, i) => said.findIndex((other) => other.toLowerCase() === tag.toLowerCase()) === i);
}

/** One thing that hands do when a variant is taken off or put on. */
export interface MountStepEntry extends BelongingEntry {
  id: string;
  when: 'off' | 'on';
  text: string;
  caution: StepCaution;

  /** Cure, bed-in or drying after it, minutes. */
  waitMin: number;

  /** The cover whose screws are worked; empty where there are none. */
  screwsOf: string;

  /** Which header the plug goes to, and which sensor that header follows; empty where nothing is plugged. */
  header: string;
  follows: string;
}

export const PART_KINDS = ['cooler', 'sink', 'cover', 'pad', 'paste', 'fan', 'fixing', 'other'] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** What can hurt at a step. The product advises; the tester decides. */
export const STEP_CAUTIONS = ['', 'springs', 'sharp', 'fans', 'film', 'solvent', 'conductive', 'leak', 'hot'] as const;
export type StepCaution = (typeof STEP_CAUTIONS)[number];

export const NO_BELONGING = { level: null, variantId: null };

/** A part to start from. */
export function blankPart(id: string, name: string): FittedPartEntry {
  return {
    ...NO_BELONGING,
    id,
    name,
    kind: 'other',
    quantity: 1,
    reusable: true,
    price: 0,
    weightG: 0,
    noiseDb: null,
    conductive: false,
    liquid: false,
    coverId: '',
    pad: null,
    paste: null,
  };
}

/** A step to start from. */
export function blankStep(id: string, when: MountStepEntry['when'], text: string): MountStepEntry {
  return { ...NO_BELONGING, id, when, text, caution: '', waitMin: 0, screwsOf: '', header: '', follows: '' };
}

/** A part as it stands on the bench: what it is, apart from how one study uses it. */
export const partByItself = ({ level: _level, variantId: _variantId, coverId: _coverId, quantity: _quantity, ...part }: FittedPartEntry) =>
  part;
export type PartByItself = ReturnType<typeof partByItself>;

/** A part of another study, taken into this one. */
export const takenPart = (id: string, part: PartByItself): FittedPartEntry => ({ ...part, ...NO_BELONGING, id, quantity: 1, coverId: '' });

/** A part as the list counts it. */
export function listed(part: FittedPartEntry, mounts: number): ListedPart {
  const { id, quantity, reusable, price, paste } = part;
  const layer = paste && pasteLayer({ areaMm2: paste.areaMm2, bondLineMm: paste.bondLineMm, densityGPerCm3: paste.densityGPerCm3 });
  return { id, quantity, reusable, price, mounts, gramsEach: layer?.appliedG ?? null };
}
