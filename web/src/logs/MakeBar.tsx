import { counted } from '@red-ember/core';
import type { StudySummary } from '@red-ember/contract';
import { FAMILIES, familyOf, type Family } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, TextField } from '../ui/Field.tsx';
import { zones } from './zone.ts';

/** What is said of the logs as a whole. */
export interface Asked {
  title: string;
  /** null where it is taken from the logs. */
  family: Family | null;
  zone: string;
  /** The study that they are added to; empty for a new one. */
  into: string;
}

interface Props {
  value: Asked;
  onChange: (part: Partial<Asked>) => void;
  studies: readonly StudySummary[];
  guessed: Family;
  /** Some of the logs have dates without a zone. */
  silent: boolean;
  count: number;
  making: boolean;
  disabled: boolean;
  onMake: () => void;
}

/** Where the logs go, what the study is called, and the one button that makes it. */
export function MakeBar({ value, onChange, studies, guessed, silent, count, making, disabled, onMake }: Props) {
  const fresh = value.into === '';
  const words = fresh ? `Make the study of ${counted(count, 'log')}` : `Add ${counted(count, 'log')} to it`;
  return (
    <div className="mb-5 flex flex-wrap items-end gap-4">
      {studies.length > 0 ? (
        <ChoiceField
          className="max-w-64"
          label="They go into"
          pointer="/addTo"
          value={value.into}
          onChange={(into) => onChange({ into })}
          options={[{ value: '', label: 'a new study' }, ...studies.map(({ id, title }) => ({ value: id, label: title }))]}
        />
      ) : null}
      {fresh ? (
        <>
          <TextField
            className="min-w-56 flex-1"
            label="It is called (by its logs, where nothing is said)"
            pointer="/title"
            value={value.title}
            onChange={(title) => onChange({ title })}
          />
          <ChoiceField
            label="Part"
            pointer="/family"
            value={value.family ?? guessed}
            onChange={(family) => onChange({ family })}
            options={FAMILIES.map((family) => ({ value: family, label: familyOf(family).name }))}
          />
        </>
      ) : null}
      {silent ? (
        <ChoiceField
          label="Times without a zone are of"
          pointer="/zone"
          value={value.zone}
          onChange={(zone) => onChange({ zone })}
          options={zones(value.zone).map((zone) => ({ value: zone, label: zone }))}
        />
      ) : null}
      <Button look="strong" disabled={disabled} onClick={onMake}>
        {making ? 'Making…' : words}
      </Button>
    </div>
  );
}
