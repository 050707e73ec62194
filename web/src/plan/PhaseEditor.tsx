import { plainNumber } from '@red-ember/core';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { RecipePhaseBody } from '@red-ember/contract';
import { useRigsQuery } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { ControlField } from '../run/start/ControlField.tsx';

type Kind = RecipePhaseBody['kind'];

const KIND_NAMES: Record<Kind, string> = {
  'idle-soak': 'Idle soak',
  load: 'Load',
  change: 'Change',
  sweep: 'Sweep',
  'cool-down': 'Cool-down',
};

/** What a kind of phase starts from; what belongs to another kind is taken off. */
function asKind(phase: RecipePhaseBody, kind: Kind): RecipePhaseBody {
  const { toPercent: _t, steps: _s, opensWith: _o, sweepOf: _w, from: _f, to: _u, set: _c, ...rest } = phase;
  const loaded = kind === 'load' || kind === 'change';
  return {
    ...rest,
    kind,
    loadPercent: loaded ? 100 : kind === 'sweep' ? 40 : 0,
    ...(kind === 'sweep' ? { toPercent: 100, steps: 4 } : {}),
    ...(kind === 'change' ? { opensWith: 'Block the vent' } : {}),
  };
}

/** Minutes typed with commas; what is no number is kept as NaN, so that the field says so. */
const minutesOf = (text: string): number[] =>
  text.trim() === '' ? [] : text.split(/[;,\s]+/).flatMap((word) => (word === '' ? [] : plainNumber(word)));

function MarksField({
  phase,
  pointer,
  change,
}: {
  phase: RecipePhaseBody;
  pointer: string;
  change: (part: Partial<RecipePhaseBody>) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextField
      label="Read by hand at minute"
      placeholder="5, 10, 20"
      pointer={pointer}
      value={typed ?? (phase.marksMin ?? []).join(', ')}
      onChange={(text) => {
        setTyped(text);
        change({ marksMin: minutesOf(text) });
      }}
    />
  );
}

/** Lets a sweep go over a control of the rig instead of the load. */
function SweepFields({
  phase,
  at,
  change,
}: {
  phase: RecipePhaseBody;
  at: (field: string) => string;
  change: (part: Partial<RecipePhaseBody>) => void;
}) {
  const controls = useControls().filter((control) => !control.choices);
  const chosen = controls.find((control) => control.key === phase.sweepOf);
  const names = controls.map(({ key, label }) => ({ value: key, label }));
  if (phase.sweepOf && !chosen) names.push({ value: phase.sweepOf, label: phase.sweepOf });
  return (
    <>
      <ChoiceField
        label="Sweep of"
        pointer={at('sweepOf')}
        value={phase.sweepOf ?? ''}
        onChange={(key) => {
          const control = controls.find((candidate) => candidate.key === key);
          change(
            key === ''
              ? { sweepOf: undefined!, from: undefined!, to: undefined!, loadPercent: 40, toPercent: 100 }
              : { sweepOf: key, from: control?.least ?? 0, to: control?.most ?? 100, loadPercent: 100, toPercent: undefined! },
          );
        }}
        options={[{ value: '', label: 'the load' }, ...names]}
      />
      {phase.sweepOf ? (
        <>
          <NumberField
            label="From"
            unit={chosen?.unit ?? ''}
            pointer={at('from')}
            value={phase.from ?? null}
            onChange={(from) => change({ from })}
          />
          <NumberField label="To" unit={chosen?.unit ?? ''} pointer={at('to')} value={phase.to ?? null} onChange={(to) => change({ to })} />
        </>
      ) : (
        <NumberField
          label="To"
          unit="%"
          pointer={at('toPercent')}
          value={phase.toPercent ?? null}
          onChange={(toPercent) => change({ toPercent })}
        />
      )}
      <NumberField label="In steps" pointer={at('steps')} value={phase.steps ?? null} onChange={(steps) => change({ steps })} />
    </>
  );
}

/** What the rig sets by itself when a phase starts. */
function SetFields({ phase, change }: { phase: RecipePhaseBody; change: (part: Partial<RecipePhaseBody>) => void }) {
  const controls = useControls();
  const set = phase.set ?? [];
  const [one] = set;
  const chosen = controls.find((control) => control.key === one?.control);
  if (controls.length === 0 && !one) return null;
  return (
    <>
      <div>
        <label htmlFor={`set-${phase.name}`} className="mb-1 block text-[0.87rem] text-soft">
          Let the rig set
        </label>
        <select
          id={`set-${phase.name}`}
          className="field-box"
          value={one?.control ?? ''}
          onChange={(event) => {
            const control = controls.find((candidate) => candidate.key === event.target.value);
            change({ set: control ? [{ control: control.key, value: control.usual }, ...set.slice(1)] : [] });
          }}
        >
          <option value="">nothing</option>
          {controls.map(({ key, label }) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
          {one && !chosen ? <option value={one.control}>{one.control}</option> : null}
        </select>
      </div>
      {one && chosen ? (
        <ControlField
          id={`set-value-${phase.name}`}
          control={chosen}
          value={one.value}
          onChange={(value) => change({ set: [{ control: one.control, value }, ...set.slice(1)] })}
        />
      ) : null}
    </>
  );
}

/** Controls of every rig that is connected, each once. */
function useControls() {
  const { data: rigs = [] } = useRigsQuery();
  const all = rigs.filter((rig) => rig.connected).flatMap((rig) => rig.controls);
  return all.filter((control, i) => all.findIndex((other) => other.key === control.key) === i);
}

export function PhaseEditor({
  phase,
  index,
  change,
  replace,
  remove,
  move,
  last,
}: {
  phase: RecipePhaseBody;
  index: number;
  change: (part: Partial<RecipePhaseBody>) => void;
  replace: (phase: RecipePhaseBody) => void;
  remove: () => void;
  move: (by: number) => void;
  last: boolean;
}) {
  const at = (field: string) => `/recipe/${index}/${field}`;
  const minutes = (seconds: number) => Math.round((seconds / 60) * 100) / 100;
  return (
    <fieldset className="mb-3 grid items-start gap-x-3 gap-y-2 border-t border-rule pt-3 md:grid-cols-[minmax(0,1.5fr)_minmax(0,1.05fr)_minmax(0,1.1fr)_6.2rem_6.2rem_5.4rem_5.6rem]">
      <legend className="sr-only">Phase {index + 1}</legend>
      <TextField label="Phase" pointer={at('name')} value={phase.name} onChange={(name) => change({ name })} />
      <ChoiceField
        label="Kind"
        pointer={at('kind')}
        value={phase.kind}
        onChange={(kind) => replace(asKind(phase, kind))}
        options={(Object.keys(KIND_NAMES) as Kind[]).map((kind) => ({ value: kind, label: KIND_NAMES[kind] }))}
      />
      <ChoiceField
        label="Ends"
        pointer={at('mode')}
        value={phase.mode}
        onChange={(mode) => change({ mode, capS: mode === 'fixed' ? phase.durationS : Math.max(phase.capS, 2 * phase.durationS) })}
        options={[
          { value: 'fixed', label: 'on time' },
          { value: 'until-settled', label: 'settled' },
          { value: 'until-read', label: 'readable' },
        ]}
      />
      <NumberField
        label={phase.kind === 'sweep' ? 'Each step' : phase.mode === 'fixed' ? 'Lasts' : 'At least'}
        unit="min"
        pointer={at('durationS')}
        value={minutes(phase.durationS)}
        onChange={(value) => change(phase.mode === 'fixed' ? { durationS: value * 60, capS: value * 60 } : { durationS: value * 60 })}
      />
      {phase.mode !== 'fixed' ? (
        <NumberField
          label="At most"
          unit="min"
          pointer={at('capS')}
          value={minutes(phase.capS)}
          onChange={(value) => change({ capS: value * 60 })}
        />
      ) : (
        <span />
      )}
      <NumberField
        label={phase.kind === 'sweep' && !phase.sweepOf ? 'From' : 'Load'}
        unit="%"
        pointer={at('loadPercent')}
        value={phase.loadPercent}
        onChange={(loadPercent) => change({ loadPercent })}
      />
      <div className="flex items-end justify-end gap-1 self-end">
        <Button look="quiet" className="!px-1" disabled={index === 0} onClick={() => move(-1)} aria-label={`Move ${phase.name} up`}>
          <ArrowUp size={16} aria-hidden />
        </Button>
        <Button look="quiet" className="!px-1" disabled={last} onClick={() => move(1)} aria-label={`Move ${phase.name} down`}>
          <ArrowDown size={16} aria-hidden />
        </Button>
        <Button look="quiet" className="!px-1" onClick={remove} aria-label={`Remove ${phase.name}`}>
          <Trash2 size={16} aria-hidden />
        </Button>
      </div>
      <div className="grid items-start gap-3 sm:grid-cols-4 md:col-span-7">
        {phase.kind === 'sweep' ? <SweepFields phase={phase} at={at} change={change} /> : null}
        {phase.kind === 'change' ? (
          <TextField
            className="sm:col-span-2"
            label="What is done when it starts"
            pointer={at('opensWith')}
            value={phase.opensWith ?? ''}
            onChange={(opensWith) => change({ opensWith })}
          />
        ) : null}
        {phase.kind === 'change' ? <SetFields phase={phase} change={change} /> : null}
        {phase.kind === 'idle-soak' || phase.kind === 'cool-down' ? null : (
          <MarksField phase={phase} pointer={at('marksMin')} change={change} />
        )}
      </div>
    </fieldset>
  );
}
