import { useSearchParams } from 'react-router';
import { outcomeKeys, outcomeKind, ownIdOf, type LineUpKey, type OutcomeKey } from '@red-ember/core';
import type { Study, StudyLineUp } from '@red-ember/contract';
import { ownFiguresOf, usualSpotId } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { useLineUpQuery } from '../../data/api.ts';

/** What a view over all variants looks at, as the address bar has it. */
export interface LineUpView {
  data: StudyLineUp | undefined;
  error: unknown;
  isLoading: boolean;
  /** Spot id, or "outcome:" and its key. */
  by: string;
  key: LineUpKey;
  /** What it is, in words, and its unit. */
  name: string;
  unit: string;
  /** Unit of a difference. */
  stepUnit: string;
  /** A value, and a difference, as they are shown in the degrees that were chosen. */
  show: (value: number) => number;
  showStep: (value: number) => number;
  /** Variant whose loads stand side by side; empty for the variants themselves. */
  loadsOf: string;
  load: string;
  signedOff: boolean;
  /** 'usual', or empty for strict. */
  evidence: string;
  /** Anything else that the address holds. */
  get: (name: string) => string | null;
  put: (entries: Record<string, string>) => void;
}

function keyOf(by: string): LineUpKey {
  return by.startsWith('outcome:') ? { outcome: by.slice('outcome:'.length) as OutcomeKey } : { spotId: by };
}

const isNamed = (by: string, study: Study) => {
  const id = ownIdOf(by.replace(/^outcome:/, ''));
  return id === null || ownFiguresOf(study).some((figure) => figure.id === id);
};

/** All variants of the study, and what is looked at of them. */
export function useLineUp(study: Study, defaults: { by?: string; loadsOf?: string } = {}): LineUpView {
  const [search, setSearch] = useSearchParams();
  const degrees = useDegrees();
  const loadsOf = search.get('of') ?? defaults.loadsOf ?? '';
  const load = loadsOf ? '' : (search.get('load') ?? '');
  const signedOff = search.get('signed') === '1';
  const evidence = search.get('evidence') ?? '';
  // What belongs to another question must not stand under this one while the answer is on its way.
  const {
    currentData: data,
    error,
    isLoading,
  } = useLineUpQuery({
    studyId: study.id,
    ...(loadsOf ? { loadsOf } : {}),
    ...(load ? { load } : {}),
    ...(signedOff ? { signedOff: '1' } : {}),
    ...(evidence ? { evidence } : {}),
  });
  const spots = data?.field.spots ?? [];
  const usual = usualSpotId(study);
  const by = search.get('by') ?? defaults.by ?? usual;
  // A figure may have been taken out of the study since this address was written.
  const key = keyOf(isNamed(by, study) ? by : usual);
  const kind = 'outcome' in key ? outcomeKind(key.outcome, { own: ownFiguresOf(study) }) : null;
  const rise = study.rules.basis === 'rise';
  return {
    data,
    error,
    isLoading,
    by,
    key,
    name: kind ? kind.label : ('spotId' in key && spots.find((spot) => spot.id === key.spotId)?.name) || 'Temperature',
    stepUnit: kind ? kind.unit || (data?.field.rules.throughputUnit ?? '') : degrees.stepUnit,
    unit: kind ? kind.unit || (data?.field.rules.throughputUnit ?? '') : rise ? degrees.stepUnit : degrees.tempUnit,
    show: kind ? (value) => value : rise ? degrees.step : degrees.temp,
    showStep: kind ? (value) => value : degrees.step,
    loadsOf,
    load,
    signedOff,
    evidence,
    get: (name) => search.get(name),
    put: (entries) =>
      setSearch(
        (before) => {
          for (const [name, value] of Object.entries(entries)) {
            if (value === '') before.delete(name);
            else before.set(name, value);
          }
          return before;
        },
        { replace: true },
      ),
  };
}

/** What can be looked at: spots that were read, and outcomes that some run recorded. */
export function choicesOf(data: StudyLineUp): { value: string; label: string }[] {
  const { spots, sides, rules } = data.field;
  const recorded = (key: OutcomeKey) => sides.some((side) => side.workRuns.some((run) => run.outcomes[key]));
  return [
    ...spots.map((spot) => ({ value: spot.id, label: spot.name })),
    ...outcomeKeys(rules)
      .filter(recorded)
      .map((key) => ({ value: `outcome:${key}`, label: outcomeKind(key, rules).label })),
  ];
}
