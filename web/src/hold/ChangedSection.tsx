import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { skipToken } from '@reduxjs/toolkit/query';
import { whatElseChanged } from '@red-ember/core';
import { goesOn, type Run, type Study } from '@red-ember/contract';
import { useConditionsQuery } from '../data/api.ts';
import { Section } from '../ui/Section.tsx';

/** The difference between the conditions of any two runs, at a glance. */
export function ChangedSection({ study, runs }: { study: Study; runs: Run[] }) {
  const ended = runs.filter((run) => !goesOn(run));
  const [search] = useSearchParams();
  const [chosen, setChosen] = useState<[string | null, string | null]>([search.get('first'), search.get('second')]);
  const idA = chosen[0] ?? ended[0]?.id ?? '';
  const idB = chosen[1] ?? ended.at(-1)?.id ?? '';
  const { data: a } = useConditionsQuery(idA || skipToken);
  const { data: b } = useConditionsQuery(idB || skipToken);
  if (ended.length < 2) return null;
  const changes = a && b ? whatElseChanged(a, b) : null;
  const variants = a && b && a.Variant !== b.Variant;
  const others = changes?.filter((change) => change.name !== 'Variant' && change.name !== 'Mount') ?? [];
  const pick = (which: 0 | 1, label: string, value: string) => (
    <select
      aria-label={label}
      className="field-box !w-auto"
      value={value}
      onChange={(event) => setChosen(which === 0 ? [event.target.value, chosen[1]] : [chosen[0], event.target.value])}
    >
      {ended.map((run) => (
        <option key={run.id} value={run.id}>
          run {run.number}, {study.variants.find((variant) => variant.id === run.variantId)?.name}
        </option>
      ))}
    </select>
  );
  return (
    <Section title="What else changed?" hint="everything written down about two runs, side by side">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        {pick(0, 'First run', idA)} <span className="text-soft">against</span> {pick(1, 'Second run', idB)}
      </div>
      {changes === null ? null : changes.length === 0 ? (
        <p>Nothing: both runs were made under the same conditions.</p>
      ) : (
        <>
          <p className="mb-2">
            {others.length === 0
              ? `Nothing but the ${variants ? 'variant' : 'mount'}.`
              : `${others.length === 1 ? 'One thing' : `${others.length} things`} besides ${variants ? 'the variant' : 'the mount'}.`}
          </p>
          <table className="plain-table">
            <thead>
              <tr>
                <th>What</th>
                <th>first</th>
                <th>second</th>
              </tr>
            </thead>
            <tbody>
              {changes.map((change) => (
                <tr key={change.name}>
                  <td className="font-semibold">{change.name}</td>
                  <td>{change.a ?? <span className="text-soft">not written down</span>}</td>
                  <td>{change.b ?? <span className="text-soft">not written down</span>}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Section>
  );
}
