import { useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import type { PairJudgement } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { otherStudyOf, printSide } from '@red-ember/study';
import { useShelfQuery, useStudyQuery } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialogue } from '../../ui/Dialogue.tsx';
import { ChoiceField } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';

const PICK_ELSEWHERE = 'pick-elsewhere';

/** What the side is called that comes from another study. */
export const nameOfOther = ({ a, b }: PairJudgement): string => (otherStudyOf(a.variantId) ? a.name : b.name);

/** A variant of another study of the same kind of part. */
function ElsewhereDialogue({ study, onPick, onClose }: { study: Study; onPick: (side: string) => void; onClose: () => void }) {
  const { data: studies = [] } = useShelfQuery({ trash: false });
  const offered = studies.filter((other) => other.id !== study.id && other.family === study.family && other.runs > 0);
  const [chosen, setChosen] = useState('');
  const otherId = chosen || (offered[0]?.id ?? '');
  const { currentData: other } = useStudyQuery(otherId || skipToken);
  const [variant, setVariant] = useState('');
  const variantId = other?.variants.some((one) => one.id === variant) ? variant : (other?.variants[0]?.id ?? '');
  return (
    <Dialogue open onClose={onClose} title="Against a variant of another study">
      {offered.length === 0 ? (
        <Notice tone="hint">No other study of this kind of part has a run yet.</Notice>
      ) : (
        <div className="grid gap-4">
          <p className="text-[0.93rem] text-soft">
            Figures are read by the rules of this study. What was run by other rules, on another piece or with other sensors is said, and
            blocks where nothing can make it good.
          </p>
          <ChoiceField
            label="Study"
            pointer="/study"
            value={otherId}
            onChange={setChosen}
            options={offered.map(({ id, title }) => ({ value: id, label: title }))}
          />
          <ChoiceField
            label="Variant"
            pointer="/variant"
            value={variantId}
            onChange={setVariant}
            options={(other?.variants ?? []).map(({ id, name }) => ({ value: id, label: name }))}
          />
          <div className="flex gap-3">
            <Button
              look="strong"
              disabled={!variantId}
              onClick={() => onPick(printSide({ kind: 'elsewhere', studyId: otherId, variantId: variantId }))}
            >
              Compare
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </div>
        </div>
      )}
    </Dialogue>
  );
}

/** What may stand on one side: a variant, all runs at a level of a factor, a single run, or on the second side a variant of another study. */
export function SidePicker({
  study,
  runs,
  a,
  b,
  thereName,
  onPick,
}: {
  study: Study;
  runs: Run[];
  a: string;
  b: string;
  /** What the side is called that comes from elsewhere. */
  thereName: string;
  onPick: (a: string, b: string) => void;
}) {
  const [elsewhere, setElsewhere] = useState(false);
  const there = [a, b].find((side) => otherStudyOf(side) !== null);
  const ended = runs.filter((run) => run.purpose === 'measure' && run.endedAt !== null);
  if (ended.length === 0) return null;
  const groups = [
    { label: 'Variants', options: study.variants.map(({ id, name }) => ({ id, name })) },
    {
      label: 'All runs at',
      options: study.factors.flatMap((factor) =>
        factor.levels.map((level) => ({ id: printSide({ kind: 'level', factor: factor.name, level }), name: `${factor.name} ${level}` })),
      ),
    },
    {
      label: 'Single runs',
      options: ended.map((run) => ({
        id: printSide({ kind: 'run', id: run.id }),
        name: `run ${run.number}, ${study.variants.find((variant) => variant.id === run.variantId)?.name ?? ''}`,
      })),
    },
  ];
  const another = {
    label: 'Another study',
    options: [...(there ? [{ id: there, name: thereName }] : []), { id: PICK_ELSEWHERE, name: 'Choose from another study…' }],
  };
  const choose = (id: string, pickIt: () => void) => (id === PICK_ELSEWHERE ? setElsewhere(true) : pickIt());
  const pick = (label: string, value: string, offered: typeof groups, onChange: (id: string) => void) => (
    <select aria-label={label} className="field-box !w-auto max-w-52" value={value} onChange={(event) => onChange(event.target.value)}>
      {value === '' ? <option value="">choose…</option> : null}
      {offered
        .filter((group) => group.options.length > 0)
        .map((group) => (
          <optgroup key={group.label} label={group.label}>
            {group.options.map((option) => (
              <option key={option.id} value={option.id}>
                {option.name}
              </option>
            ))}
          </optgroup>
        ))}
    </select>
  );
  return (
    <>
      {/* Who chooses what stands on the other side means the two turned round. */}
      {pick('Reference', a, otherStudyOf(a) ? [...groups, another] : groups, (id) => choose(id, () => onPick(id, id === b ? a : b)))}{' '}
      <span className="text-soft">against</span>{' '}
      {pick('Compared', b, [...groups, another], (id) => choose(id, () => onPick(id === a ? b : a, id)))}
      {elsewhere ? (
        <ElsewhereDialogue
          study={study}
          onClose={() => setElsewhere(false)}
          onPick={(side) => {
            setElsewhere(false);
            onPick(a, side);
          }}
        />
      ) : null}
    </>
  );
}
