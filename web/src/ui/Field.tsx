import { plainNumber } from '@red-ember/core';
import { createContext, useContext, useId, useState, type ReactNode } from 'react';
import type { FieldProblem } from '@red-ember/contract';

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
        {label}
      </label>
      <div className="flex items-center gap-2">
        {children}
        {unit ? <span className="shrink-0 text-[0.87rem] text-soft">{unit}</span> : null}
      </div>
      {hint && !problem ? (
        <p id={`${id}-hint`} className="mt-1 text-[0.83rem] leading-snug text-soft">
          {hint}
        </p>
      ) : null}
      {problem ? (
        <p id={`${id}-problem`} className="mt-1 text-[0.87rem] leading-snug text-ember-text">
          {problem}
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

/** Numbers may be typed with a comma; what is not a number yet stays on screen and counts as missing. */
export function NumberField({ value, onChange, ...common }: Common & { value: number | null; onChange: (value: number) => void }) {
  const id = useId();
  const problem = useProblem(common.pointer, true);
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? (value === null || Number.isNaN(value) ? '' : String(value));
  return (
    <Shell {...common} id={id} problem={problem}>
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
          onChange(plainNumber(event.target.value));
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
