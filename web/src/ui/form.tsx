import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useEffect, type ReactNode } from 'react';
import {
  Controller,
  useForm,
  type Control,
  type DefaultValues,
  type FieldErrors,
  type FieldPath,
  type FieldValues,
  type PathValue,
  type UseFormReturn,
} from 'react-hook-form';
import type { FieldProblem } from '@red-ember/contract';
import { ChoiceField, NumberField, ProblemsContext, TextField } from './Field.tsx';

/**
 * A form that is held against a class of the contract: the same checks as the server's, field by field. It hands out plain values, as they
 * are sent. It complains once it was tried to send, or with the first change where it is filled already (`early`).
 */
export function useCheckedForm<T extends object & FieldValues>(
  type: new () => T,
  start: DefaultValues<T>,
  early = false,
): UseFormReturn<T, unknown, T> {
  const form = useForm<T, unknown, T>({ resolver: classValidatorResolver(type, {}, { raw: true }) as never, defaultValues: start });
  const { watch, trigger } = form;
  const { isSubmitted } = form.formState;
  // What is wrong with one field may be put right in another: all of them are looked at with every change.
  useEffect(() => {
    if (!isSubmitted && !early) return;
    const { unsubscribe } = watch(() => void trigger());
    return unsubscribe;
  }, [isSubmitted, early, watch, trigger]);
  return form;
}

/** What is wrong, by the pointer of the field it is about. */
export function problemsOf(errors: FieldErrors, path = ''): FieldProblem[] {
  return Object.entries(errors).flatMap(([name, error]): FieldProblem[] => {
    if (error === null || typeof error !== 'object' || name === 'ref' || name === 'root') return [];
    const pointer = `${path}/${name}`;
    const { message } = error as { message?: unknown };
    const inner = problemsOf(error as FieldErrors, pointer);
    return typeof message === 'string' && message !== '' ? [{ pointer, sentence: message }, ...inner] : inner;
  });
}

/** Lets the fields within find what is wrong with them. */
export const FormProblems = ({ errors, children }: { errors: FieldErrors; children: ReactNode }) => (
  <ProblemsContext.Provider value={problemsOf(errors)}>{children}</ProblemsContext.Provider>
);

interface Bound<T extends FieldValues, Name extends FieldPath<T>> {
  control: Control<T, unknown, T>;
  name: Name;
}

const pointerOf = (name: string) => `/${name.replaceAll('.', '/')}`;

/** A text field of a form. */
export const FormText = <T extends FieldValues, Name extends FieldPath<T>>({
  control,
  name,
  ...field
}: Bound<T, Name> & Omit<Parameters<typeof TextField>[0], 'value' | 'onChange' | 'pointer'>) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange } }) => (
      <TextField {...field} pointer={pointerOf(name)} value={(value as string | undefined) ?? ''} onChange={onChange} />
    )}
  />
);

/** A number of a form; what is not a number yet is NaN, and the checks say so. One that may be empty is null then. */
export const FormNumber = <T extends FieldValues, Name extends FieldPath<T>>({
  control,
  name,
  mayBeEmpty = false,
  onEmptied,
  ...field
}: Bound<T, Name> &
  Omit<Parameters<typeof NumberField>[0], 'value' | 'onChange' | 'pointer'> & { mayBeEmpty?: boolean; onEmptied?: () => void }) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange } }) => (
      <NumberField
        {...field}
        pointer={pointerOf(name)}
        value={value as number}
        onChange={(next) => {
          const empty = mayBeEmpty && Number.isNaN(next);
          onChange((empty ? null : next) as PathValue<T, Name>);
          if (empty) onEmptied?.();
        }}
      />
    )}
  />
);

/** A choice of a form. `after` may change other fields with it. */
export const FormChoice = <T extends FieldValues, Name extends FieldPath<T>, Value extends string>({
  control,
  name,
  after,
  ...field
}: Bound<T, Name> &
  Omit<Parameters<typeof ChoiceField<Value>>[0], 'value' | 'onChange' | 'pointer'> & { after?: (value: Value) => void }) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange } }) => (
      <ChoiceField<Value>
        {...field}
        pointer={pointerOf(name)}
        value={value as Value}
        onChange={(next) => {
          onChange(next as PathValue<T, Name>);
          after?.(next);
        }}
      />
    )}
  />
);
