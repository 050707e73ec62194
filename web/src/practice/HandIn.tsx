import { Controller, type Control } from 'react-hook-form';
import { HandInBody, PRACTICE_CALLS, type PracticeSheet, type TrapKey } from '@red-ember/contract';
import { sentenceOf, useHandInMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { FormNumber, FormProblems, FormText } from '../ui/form.tsx';
import { forgetForm, useKeptForm } from '../ui/useKeptForm.ts';
import { Notice } from '../ui/Notice.tsx';
import { callSentence } from './words.ts';

type Fields = Control<HandInBody, unknown, HandInBody>;

function Calls({ control, question }: { control: Fields; question: PracticeSheet['question'] }) {
  return (
    <Controller
      control={control}
      name="call"
      render={({ field: { value, onChange }, fieldState: { error } }) => (
        <fieldset className="mb-5">
          <legend className="mb-1.5 text-[0.87rem] text-soft">How it came out, at “{question.spot}”</legend>
          {PRACTICE_CALLS.map((call) => (
            <label key={call} className="flex items-baseline gap-2.5 py-1">
              <input type="radio" name="call" checked={value === call} onChange={() => onChange(call)} />
              {callSentence(call, question.a, question.b)}
            </label>
          ))}
          {error ? <p className="mt-1 text-[0.87rem] text-ember-text">{error.message}</p> : null}
        </fieldset>
      )}
    />
  );
}

function Found({ control, traps }: { control: Fields; traps: PracticeSheet['traps'] }) {
  return (
    <Controller
      control={control}
      name="found"
      render={({ field: { value, onChange } }) => (
        <fieldset className="mb-5">
          <legend className="mb-1.5 text-[0.87rem] text-soft">What was wrong with the bench, if anything</legend>
          <div className="grid gap-x-8 md:grid-cols-2">
            {traps.map(({ key, label }) => (
              <label key={key} className="flex items-baseline gap-2.5 py-1">
                <input
                  type="checkbox"
                  checked={value.includes(key)}
                  onChange={(event) => onChange(event.target.checked ? [...value, key] : value.filter((each: TrapKey) => each !== key))}
                />
                {label}
              </label>
            ))}
          </div>
        </fieldset>
      )}
    />
  );
}

/** What a learner found, to be handed in once. What is typed stays in this browser until then: the bench is looked at in between. */
export function HandIn({ sheet }: { sheet: PracticeSheet }) {
  const key = `red-ember practice ${sheet.studyId}`;
  const form = useKeptForm(key, HandInBody, {
    call: undefined as unknown as HandInBody['call'],
    differenceK: null,
    plusMinusK: null,
    found: [],
    sentence: '',
  });
  const [handIn, { error, isLoading }] = useHandInMutation();
  const given = (value: number | null) => (value === null || Number.isNaN(value) ? null : value);
  const submit = form.handleSubmit(async (answer) => {
    const answered = await handIn({
      studyId: sheet.studyId,
      body: { ...answer, differenceK: given(answer.differenceK), plusMinusK: given(answer.plusMinusK) },
    });
    if ('data' in answered) forgetForm(key);
  });
  const { control, formState } = form;
  return (
    <FormProblems errors={formState.errors}>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Calls control={control} question={sheet.question} />
        <div className="mb-5 flex flex-wrap items-end gap-4">
          <FormNumber
            control={control}
            name="differenceK"
            label={`${sheet.question.b} less ${sheet.question.a}`}
            unit="K"
            className="w-56"
          />
          <FormNumber control={control} name="plusMinusK" label="give or take" unit="K" className="w-36" />
        </div>
        <Found control={control} traps={sheet.traps} />
        <FormText control={control} name="sentence" label="The sentence for the report" rows={2} className="mb-4 max-w-[44rem]" />
        {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
        <div className="flex flex-wrap items-center gap-4">
          <Button type="submit" look="strong" disabled={isLoading}>
            Hand in and see what was true
          </Button>
          <span className="text-[0.93rem] text-soft">
            {sheet.runs === 0 ? 'Nothing has been run yet. ' : ''}There is one answer; the exercise can be begun anew.
          </span>
        </div>
      </form>
    </FormProblems>
  );
}
