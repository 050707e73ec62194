import { GENERAL_FIGURE } from '../components.ts';
import { familyOf, type Family } from '../families.ts';
import type { ClaimEntry, HouseRulesEntry, PredictionEntry } from './ask.ts';
import type { FittedPartEntry, MountStepEntry } from './fitting.ts';
import type { EnclosureEntry, LockEntry } from './hold.ts';
import type { JudgingEntry } from './judging.ts';
import type { OwnFigureEntry } from './ownFigures.ts';
import type { SpotEntry, SubjectEntry } from './look.ts';
import { blankPlan, type FactorEntry, type ImpossibleEntry, type PlanEntry, type RecipePhaseEntry, type VariantEntry } from './plan.ts';

/** Everything a tester writes down about a study. Sent whole; `If-Match` guards against two people editing at once. */
export interface StudyDefinition {
  title: string;
  family: Family;
  question: string;
  claims: ClaimEntry[];
  predictions: PredictionEntry[];
  rules: HouseRulesEntry;
  enclosure: EnclosureEntry;
  subjects: SubjectEntry[];

  /** Instrument channel that reads the room; null where none is written down. */
  roomChannelId: string | null;
  spots: SpotEntry[];
  variants: VariantEntry[];
  factors: FactorEntry[];
  impossible: ImpossibleEntry[];
  plan: PlanEntry;

  /** What is put on, by level or variant. */
  parts: FittedPartEntry[];

  /** What hands do when it is put on or taken off. */
  steps: MountStepEntry[];
  recipe: RecipePhaseEntry[];
  locks: LockEntry[];

  /** Figures that it names itself; none where nothing is said. */
  figures?: OwnFigureEntry[];

  /** Loads to carry and readers to choose for; the usual where nothing is said. */
  judging?: JudgingEntry;
}

/** A study as it is kept: what the tester wrote, and what the bench knows of it. `version` is also its ETag. */
export interface StudyRecord extends StudyDefinition {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  /** When the first run started; from then on the prediction is fixed. */
  predictionLockedAt: string | null;
  /** When each prediction was last written, by its id. */
  predictionStamps: Record<string, string>;
  /** Variants that have runs and so cannot be removed. */
  variantsWithRuns: string[];
}

/** What the tester wrote, without what the server added. */
export function bodyOf(study: StudyRecord): StudyDefinition {
  const {
    id: _id,
    version: _v,
    createdAt: _c,
    updatedAt: _u,
    predictionLockedAt: _p,
    predictionStamps: _s,
    variantsWithRuns: _w,
    ...body
  } = study;
  return body;
}

/** What a part is called until somebody names it. */
export const UNNAMED_PART = 'Unnamed part';

/** A study to start from: sensible defaults, nothing invented about the part. */
export function blankStudy(title: string, family: Family = 'drive'): StudyDefinition {
  const { start } = familyOf(family);
  return {
    title,
    family,
    question: '',
    claims: [],
    predictions: [],
    rules: {
      basis: 'rise',
      figure: 'settled-mean',
      fans: start.fans,
      load: start.load,
      duration: 'until-settled',
      place: 'open-bench',
      sensorOfRecord: 'attached',
      stress: 'as-used',
      ladder: 'one-change',
      paste: 'spread',
      practicalK: 1,
      coverage: 0.95,
      roomMinC: 20,
      roomMaxC: 25,
    },
    enclosure: { name: 'warm enclosure', airC: 32, powerTempCo: 0 },
    subjects: [{ id: 'part-1', name: UNNAMED_PART, details: '', drive: null, map: null }],
    roomChannelId: null,
    spots: [],
    variants: [],
    factors: [],
    impossible: [],
    plan: blankPlan(),
    parts: [],
    steps: [],
    recipe: [
      { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 480, capS: 480, loadPercent: 0 },
      { kind: 'load', name: start.loadName, mode: 'until-settled', durationS: 600, capS: start.capS, loadPercent: 100 },
      { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
    ],
    locks: [],
  };
}

/** Every field of a spot that a new one starts from; limits come from the library. */
export function blankSpot(id: string, name: string, channel: string): SpotEntry {
  return {
    id,
    name,
    place: '',
    componentClass: 'board',
    advisoryC: null,
    advisorySource: '',
    limitC: 105,
    limitSource: GENERAL_FIGURE,
    cutOutC: 110,
    cutOutHoldS: 5,
    throttleC: null,
    throttleSource: '',
    method: 'attached',
    byHand: false,
    channel,
    sensor: channel,
    instrumentChannelId: null,
    accuracyK: 0.5,
    resolutionK: 0.1,
    placementK: 0.5,
    twinOf: null,
    beneath: null,
  };
}
