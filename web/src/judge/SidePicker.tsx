import { useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Run, Study } from '@red-ember/contract';
import { useShelfQuery, useStudyQuery } from '../app/api.ts';
import { Button } from '../parts/Button.tsx';
import { Dialogue } from '../parts/Dialogue.tsx';
import { ChoiceField } from '../parts/Field.tsx';
import { Notice } from '../parts/Notice.tsx';

const ELSEWHERE = 'study:';
const PICK_ELSEWHERE = 'pick-elsewhere';

/** Id of the study that a side of the address comes from; null where it is of the study that is open. */
export const otherStudyOf = (side: string): string | null => (side.startsWith(ELSEWHERE) ? side.split(':')[1]! : null);

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
            <Button look="strong" disabled={!variantId} onClick={() => onPick(`${ELSEWHERE}${otherId}:${variantId}`)}>
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
  bName,
  onPick,
}: {
  study: Study;
  runs: Run[];
  a: string;
  b: string;
  /** What the second side is called, where it comes from elsewhere. */
  bName: string;
  onPick: (a: string, b: string) => void;
}) {
  const [elsewhere, setElsewhere] = useState(false);
  const ended = runs.filter((run) => run.purpose === 'measure' && run.endedAt !== null);
  if (ended.length === 0) return null;
  const groups = [
    { label: 'Variants', options: study.variants.map(({ id, name }) => ({ id, name })) },
    {
      label: 'All runs at',
      options: study.factors.flatMap((factor) =>
        factor.levels.map((level) => ({ id: `level:${factor.name}=${level}`, name: `${factor.name} ${level}` })),
      ),
    },
    {
      label: 'Single runs',
      options: ended.map((run) => ({
        id: `run:${run.id}`,
        name: `run ${run.number}, ${study.variants.find((variant) => variant.id === run.variantId)?.name ?? ''}`,
      })),
    },
  ];
  const another = {
    label: 'Another study',
    options: [...(otherStudyOf(b) ? [{ id: b, name: bName }] : []), { id: PICK_ELSEWHERE, name: 'Choose from another study…' }],
  };
  const pick = (label: string, value: string, other: string, offered: typeof groups, onChange: (id: string) => void) => (
    <select aria-label={label} className="field-box !w-auto max-w-52" value={value} onChange={(event) => onChange(event.target.value)}>
      {value === '' ? <option value="">choose…</option> : null}
      {offered
        .map((group) => ({ ...group, options: group.options.filter((option) => option.id !== other) }))
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
      {pick('Reference', a, b, groups, (id) => onPick(id, b))} <span className="text-soft">against</span>{' '}
      {pick('Compared', b, a, [...groups, another], (id) => (id === PICK_ELSEWHERE ? setElsewhere(true) : onPick(a, id)))}
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
