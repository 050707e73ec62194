import { ASSUMED_REPEATABILITY_K, duration, fixed, priceRepeats } from '@red-ember/core';
import type { BenchScatter, PlanBody, StudyBody, VariantBody } from '@red-ember/contract';
import { useScatterQuery } from '../data/api.ts';
import { NumberField } from '../ui/Field.tsx';
import { Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { StoppingFields } from './StoppingFields.tsx';
import { readable, repeatsOf } from './schedule.ts';
import { ScatterSources } from '../study/ScatterSources.tsx';
import { Shown } from '../ui/Shown.tsx';

type Kind = 'untouched' | 'remounted';

/** The class of component that scatters most decides how many repeats are needed. */
function worst(scatter: readonly BenchScatter[], kind: Kind): { sd: number; dof: number; componentClass: string } | null {
  const known = scatter.flatMap((entry) => (entry[kind] ? [{ ...entry[kind], componentClass: entry.componentClass }] : []));
  return known.sort((p, q) => q.sd - p.sd)[0] ?? null;
}

/** How many runs it takes to see what matters, what today's number could see, and what that costs in hours. */
export function RepeatsSection({
  body,
  studyId,
  lengthMin,
  started,
  setRepeats,
  setPlan,
}: {
  body: StudyBody;
  studyId: string;
  /** null until it is known. */
  lengthMin: number | null;
  /** It has runs already. */
  started: boolean;
  setRepeats: (variant: VariantBody, repeats: number) => void;
  setPlan: (part: Partial<PlanBody>) => void;
}) {
  const { data: scatter = [], isLoading } = useScatterQuery(studyId);
  const coming = isLoading || lengthMin === null;
  const { practicalK, coverage } = body.rules;
  const reading = readable(body);
  const least = Math.min(...reading.variants.map(repeatsOf).filter((count) => count > 0), Infinity);
  // Half typed at Ask, where the field says so.
  const sound = practicalK > 0 && coverage > 0 && coverage < 1;
  const rows = (['untouched', 'remounted'] as const).map((kind) => {
    const known = worst(scatter, kind);
    const sd = known?.sd ?? ASSUMED_REPEATABILITY_K;
    const minutesPerRun = (lengthMin ?? 0) + (kind === 'remounted' ? reading.plan.remountMin : 0);
    const planned = Number.isFinite(least) ? least : 0;
    return {
      kind,
      known,
      sd,
      price: sound ? priceRepeats({ sd, detectK: practicalK, alpha: 1 - coverage, planned, minutesPerRun }) : null,
    };
  });
  const scattersMost = rows.find(({ kind }) => kind === 'remounted')?.known?.componentClass;
  const sources = scatter.find(({ componentClass }) => componentClass === scattersMost)?.from ?? [];
  // Nothing is shown as the bench's answer before the bench has answered.
  if (coming)
    return (
      <Section title="How many repeats?">
        <Waiting what="Looking at how this bench has repeated" />
      </Section>
    );
  return (
    <Section title="How many repeats?" hint={`to see ${fixed(practicalK, 1)} K with 80 % chance, by the spot that scatters most`}>
      <Shown>
        <table className="plain-table mb-4">
          <thead>
            <tr>
              <th>Repeats</th>
              <th>scatter</th>
              <th className="num">a side</th>
              <th className="num">for two sides</th>
              <th className="num">{Number.isFinite(least) ? `smallest seen with ${least}` : 'smallest seen'}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.kind}>
                <td className="font-semibold">{row.kind === 'untouched' ? 'without touching' : 'with refitting'}</td>
                <td>
                  {fixed(row.sd, 2)} K{' '}
                  <span className="text-[0.87rem] text-soft">
                    {row.known
                      ? `${row.known.componentClass}, from this bench, ${row.known.dof} degrees of freedom`
                      : 'assumed: this bench has no history yet'}
                  </span>
                </td>
                <td className="num font-semibold">{row.price?.needed ?? ''}</td>
                <td className="num">{row.price ? duration(row.price.minutes * 60) : ''}</td>
                <td className="num">{row.price?.seesK ? `${fixed(row.price.seesK, 2)} K` : 'nothing sure'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Shown>
      {sources.length > 0 ? (
        <p className="-mt-2 mb-4 max-w-(--container-measure) text-soft">
          Refitting as <ScatterSources sources={sources} /> show it.
        </p>
      ) : null}
      <div className="grid gap-x-6 gap-y-2 sm:grid-cols-3">
        {body.variants.map((variant, index) =>
          variant.retired ? null : (
            <NumberField
              key={variant.id}
              label={variant.name}
              unit={repeatsOf(variant) === 1 ? 'run' : 'runs'}
              pointer={`/variants/${index}/repeats`}
              value={repeatsOf(variant)}
              onChange={(repeats) => setRepeats(variant, repeats)}
            />
          ),
        )}
      </div>
      <StoppingFields
        body={body}
        started={started}
        known={rows.find(({ kind }) => kind === 'remounted')?.known ?? null}
        setPlan={setPlan}
      />
    </Section>
  );
}
