import { plainNumber } from '@red-ember/core';
import { createContext, useContext, useId, useState, type ReactNode } from 'react';
import type { FieldProblem } from '@red-ember/contract';
import { useDegrees } from '../data/useDegrees.ts';
import { Shown } from './Shown.tsx';

/** Problems of the study being edited, by pointer; fields look up their own. */
export const ProblemsContext = createContext<FieldProblem[]>([]);

function useProblem(pointer: string, touched: boolean): string | null {
  const problems = useContext(ProblemsContext);
  return touched ? (problems.find((problem) => problem.pointer === pointer)?.sentence ?? null) : null;
}

interface Common {
  label: string;
  /** JSON pointer of the field in the study. */
  pointer: string;
  hint?: string | undefined;
  hideLabel?: boolean;
  disabled?: boolean;
  className?: string;
  unit?: string;
}

function Shell({
  label,
  hint,
  hideLabel,
  className = '',
  unit,
  problem,
  id,
  children,
}: Common & { problem: string | null; id: string; children: ReactNode }) {
  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'mb-1 block text-[0.87rem] text-soft'}>
        <Shown>{label}</Shown>
      </label>
      <div className="flex items-center gap-2">
        {children}
        {unit ? <span className="shrink-0 text-[0.87rem] text-soft">{unit}</span> : null}
      </div>
      {hint && !problem ? (
        <p id={`${id}-hint`} className="mt-1 text-[0.83rem] leading-snug text-soft">
          <Shown>{hint}</Shown>
        </p>
      ) : null}
      {problem ? (
        <p id={`${id}-problem`} className="mt-1 text-[0.87rem] leading-snug text-ember-text">
          <Shown>{problem}</Shown>
        </p>
      ) : null}
    </div>
  );
}

function aria(id: string, problem: string | null, hint?: string | undefined) {
  return { 'aria-invalid': problem !== null, 'aria-describedby': problem ? `${id}-problem` : hint ? `${id}-hint` : undefined } as const;
}

export function TextField({
  value,
  onChange,
  rows,
  suggestions,
  placeholder,
  type = 'text',
  ...common
}: Common & {
  value: string;
  onChange: (value: string) => void;
  rows?: number;
  /** Offered while typing; anything else may be typed too. */
  suggestions?: readonly (string | { key: string; label: string })[];
  placeholder?: string;
  type?: 'text' | 'date';
}) {
  const id = useId();
  const problem = useProblem(common.pointer, true);
  const props = { id, value, disabled: common.disabled, className: 'field-box', ...aria(id, problem, common.hint) };
  return (
    <Shell {...common} id={id} problem={problem}>
      {rows ? (
        <textarea rows={rows} {...props} onChange={(event) => onChange(event.target.value)} />
      ) : (
        <input
          type={type}
          {...props}
          placeholder={placeholder}
          list={suggestions?.length ? `${id}-list` : undefined}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
      {suggestions?.length ? (
        <datalist id={`${id}-list`}>
          {suggestions.map((suggestion) =>
            typeof suggestion === 'string' ? (
              <option key={suggestion} value={suggestion} />
            ) : (
              <option key={suggestion.key} value={suggestion.key} label={suggestion.label} />
            ),
          )}
        </datalist>
      ) : null}
    </Shell>
  );
}

/** A figure that was taken to other degrees, without the digits that doing so made up. */
const tidy = (value: number) => String(Math.round(1000 * value) / 1000);

/** How a figure with this unit is shown and typed: °C and K in the degrees that were chosen, everything else as it is. */
function useShownUnit(unit: string | undefined) {
  const { degrees, temp, step, tempUnit, stepUnit } = useDegrees();
  const as = degrees === 'C' ? null : unit === '°C' ? { show: temp, unit: tempUnit } : unit === 'K' ? { show: step, unit: stepUnit } : null;
  const zero = as ? as.show(0) : 0;
  return {
    unit: as ? as.unit : unit,
    show: (value: number) => (as ? tidy(as.show(value)) : String(value)),
    typed: (value: number) => (as ? (value - zero) / (as.show(1) - zero) : value),
  };
}

/**
 * Numbers may be typed with a comma; what is not a number yet stays on screen and counts as missing. Where the unit is °C or K, `value` is in
 * it, whatever degrees are shown.
 */
export function NumberField({ value, onChange, ...common }: Common & { value: number | null; onChange: (value: number) => void }) {
  const id = useId();
  const problem = useProblem(common.pointer, true);
  const [text, setText] = useState<string | null>(null);
  const as = useShownUnit(common.unit);
  const shown = text ?? (value === null || Number.isNaN(value) ? '' : as.show(value));
  return (
    <Shell {...common} {...(as.unit === undefined ? {} : { unit: as.unit })} id={id} problem={problem}>
      <input
        id={id}
        type="text"
        inputMode="decimal"
        value={shown}
        disabled={common.disabled}
        className="field-box min-w-16 text-right"
        {...aria(id, problem, common.hint)}
        onChange={(event) => {
          setText(event.target.value);
          onChange(as.typed(plainNumber(event.target.value)));
        }}
        onBlur={() => setText((typed) => (typed !== null && typed.trim() !== '' && Number.isNaN(plainNumber(typed)) ? typed : null))}
      />
    </Shell>
  );
}

export function ChoiceField<T extends string>({
  value,
  onChange,
  options,
  ...common
}: Common & { value: T; onChange: (value: T) => void; options: { value: T; label: string }[] }) {
  const id = useId();
  const problem = useProblem(common.pointer, true);
  return (
    <Shell {...common} id={id} problem={problem}>
      <select
        id={id}
        value={value}
        disabled={common.disabled}
        className="field-box"
        {...aria(id, problem, common.hint)}
        onChange={(event) => onChange(event.target.value as T)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </Shell>
  );
}
