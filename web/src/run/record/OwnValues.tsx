import { useForm } from 'react-hook-form';
import { Link } from 'react-router';
import { plainNumber } from '@red-ember/core';
import type { OwnValueBody, Run, Study } from '@red-ember/contract';
import { ownFiguresOf } from '@red-ember/study';
import { sentenceOf, useOwnValuesMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';

/** Names of fields hold no dots: an id and a place. */
const fieldOf = (figureId: string, place: number) => `${figureId}/${place}`;

/** What the study's own figures came to in this run: typed when they are known, also days later. */
export function OwnValues({ study, run }: { study: Study; run: Run }) {
  const figures = ownFiguresOf(study);
  const loads = [...new Set(run.phases.filter((phase) => phase.kind === 'load').map((phase) => phase.name))];
  // A run of one load needs no word of it.
  const places: (string | null)[] = loads.length > 1 ? [null, ...loads] : [null];
  const typed = (figureId: string, load: string | null) =>
    run.own.find((value) => value.figureId === figureId && value.load === load)?.value;
  const defaults = Object.fromEntries(
    figures.flatMap(({ id }) => places.map((load, i) => [fieldOf(id, i), String(typed(id, load) ?? '')])),
  );
  const { register, handleSubmit, formState, reset } = useForm<Record<string, string>>({ values: defaults });
  const [save, saving] = useOwnValuesMutation();
  if (figures.length === 0) return null;
  const submit = handleSubmit(async (fields) => {
    const values = figures.flatMap(({ id }) =>
      places.flatMap((load, i): OwnValueBody[] => {
        const text = fields[fieldOf(id, i)]?.trim() ?? '';
        return text === '' ? [] : [{ figureId: id, load, value: plainNumber(text) }];
      }),
    );
    // What belongs to a load that is called otherwise now is not shown, and must not be lost for that.
    const hidden = run.own.filter(({ figureId, load }) => figures.some(({ id }) => id === figureId) && !places.includes(load));
    const answer = await save({
      id: run.id,
      body: { values: [...values, ...hidden.map(({ figureId, load, value }) => ({ figureId, load, value }))] },
    });
    if (!('error' in answer && answer.error)) reset(fields);
  });
  return (
    <Section
      title="Figures of your own"
      hint={
        <>
          named at <Link to={`/studies/${study.id}/ask`}>Ask</Link>; typed now or later
        </>
      }
    >
      <form onSubmit={(event) => void submit(event)} aria-label="Figures of your own">
        <table className="plain-table max-w-3xl">
          <thead>
            <tr>
              <th>Figure</th>
              {places.map((load) => (
                <th key={load ?? ''} className="num">
                  {load ?? (places.length > 1 ? 'whole run' : 'this run')}
                </th>
              ))}
              <th>unit</th>
            </tr>
          </thead>
          <tbody>
            {figures.map((figure) => (
              <tr key={figure.id}>
                <td className="font-semibold">
                  {figure.name}
                  {figure.instrument || figure.channel ? (
                    <span className="block text-[0.87rem] font-normal text-soft">
                      {figure.channel ? `by channel ${figure.channel}; what is typed stands in its place` : figure.instrument}
                    </span>
                  ) : null}
                </td>
                {places.map((load, i) => {
                  const name = fieldOf(figure.id, i);
                  const problem = formState.errors[name]?.message;
                  return (
                    <td key={name} className="num w-32">
                      <input
                        type="text"
                        inputMode="decimal"
                        className="field-box w-28 text-right"
                        aria-label={load === null ? figure.name : `${figure.name}, ${load}`}
                        aria-invalid={problem !== undefined}
                        {...register(name, {
                          validate: (text) => text.trim() === '' || Number.isFinite(plainNumber(text)) || 'Type a number.',
                        })}
                      />
                      {problem ? <span className="block text-[0.87rem] text-ember-text">{problem}</span> : null}
                    </td>
                  );
                })}
                <td>{figure.unit}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-3">
          <Button type="submit" look="strong" disabled={!formState.isDirty || saving.isLoading}>
            Write them down
          </Button>
        </div>
        {saving.error ? <Notice tone="error">{sentenceOf(saving.error)}</Notice> : null}
      </form>
    </Section>
  );
}
