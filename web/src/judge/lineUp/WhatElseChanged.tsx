import { useState } from 'react';
import { listWords, retestsByHand, suspects, unrecorded, type LineUpSide, type Unrecorded, midSentence } from '@red-ember/core';
import type { Study, StudyBody, VariantBody } from '@red-ember/contract';
import { blankStep, bodyOf, ownFiguresOf, shortNames } from '@red-ember/study';
import { sentenceOf } from '../../data/api.ts';
import { useSaveStudy } from '../../data/useSaveStudy.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { Pick } from '../../ui/Pick.tsx';

/** What nobody recorded can be no suspect: it is named, so that nobody is cleared by it. */
function Missing({ missing }: { missing: readonly Unrecorded[] }) {
  if (missing.length === 0) return null;
  const names = (onlyOf: string | null) => missing.filter((one) => one.onlyOf === onlyOf).map(({ name }) => name);
  const sides = [...new Set(missing.flatMap(({ onlyOf }) => onlyOf ?? []))];
  const neither = names(null);
  return (
    <p className="mt-3 max-w-(--container-measure) text-soft">
      {neither.length > 0 ? `Recorded of neither, and so no suspect: ${listWords(neither)}. ` : ''}
      {sides.map((side) => `Recorded of ${side} only: ${listWords(names(side))}.`).join(' ')}
    </p>
  );
}

/** The study with a retest's one suspect as the twin has it: as a level of a factor, else as a step of its card. */
function withSuspectChanged(body: StudyBody, variantId: string, suspect: string, toWhat: string): StudyBody {
  const isLevel = body.factors.some(({ name, levels }) => name === suspect && levels.includes(toWhat));
  if (!isLevel) {
    const step = {
      ...blankStep(crypto.randomUUID(), 'on', `${suspect}: bring it to ${toWhat}, and nothing else.`.slice(0, 240)),
      variantId,
    };
    return { ...body, steps: [...body.steps, step] };
  }
  const changed = (levels: VariantBody['levels'] = []) => [
    ...levels.filter(({ factor }) => factor !== suspect),
    { factor: suspect, level: toWhat },
  ];
  return {
    ...body,
    variants: body.variants.map((variant) => (variant.id === variantId ? { ...variant, levels: changed(variant.levels) } : variant)),
  };
}

interface WhatElseChangedProps {
  study: Study;
  sides: LineUpSide[];
  outlier: LineUpSide;
  /** What the outlier is held against; undefined where there is no other. */
  twin: LineUpSide | undefined;
  onPick: (put: { odd?: string; twin?: string }) => void;
}

/** What differs between an odd result and its twin, beside temperature; each suspect can be put to a retest that changes it alone. */
export function WhatElseChanged({ study, sides, outlier, twin, onPick }: WhatElseChangedProps) {
  const [save, saving] = useSaveStudy();
  const [said, setSaid] = useState('');
  const oddId = outlier.variantId;
  const list = twin ? suspects(outlier, twin, { own: ownFiguresOf(study) }) : [];
  const byHand = twin ? retestsByHand(sides, outlier, twin) : [];
  const missing = twin
    ? unrecorded(
        outlier,
        twin,
        study.locks.map(({ name }) => name),
      )
    : [];
  const add = async (suspect: string, toWhat: string) => {
    const of = study.variants.find((variant) => variant.id === oddId)!;
    const name = shortNames()(`${of.name}, ${midSentence(suspect)} as ${twin!.name}`);
    const id = crypto.randomUUID();
    const variant = {
      ...of,
      id,
      name,
      isReference: false,
      setup: '',
      notes: `Retest of ${of.name} with one suspect changed: ${suspect} ${toWhat}. Everything else stays.`.slice(0, 500),
      repeats: 2,
      retest: { variantId: oddId, suspect: suspect.slice(0, 80) },
    };
    const body = withSuspectChanged({ ...bodyOf(study), variants: [...study.variants, variant] }, id, suspect, toWhat);
    const done = await save({ id: study.id, version: study.version, body });
    setSaid('error' in done ? '' : `${name} is in the plan, two runs.`);
  };
  return (
    <Section
      title="What else changed?"
      action={
        <span className="flex flex-wrap gap-4">
          <Pick
            label="Odd"
            value={oddId}
            options={sides.map((side) => ({ value: side.variantId, label: side.name }))}
            onChange={(odd) => onPick({ odd })}
          />
          <Pick
            label="Twin"
            value={twin?.variantId ?? ''}
            options={sides.filter((side) => side.variantId !== oddId).map((side) => ({ value: side.variantId, label: side.name }))}
            onChange={(next) => onPick({ twin: next })}
          />
        </span>
      }
    >
      {saving.error ? <Notice tone="error">{sentenceOf(saving.error)}</Notice> : null}
      {said ? <Notice tone="hint">{said}</Notice> : null}
      {list.length === 0 ? (
        <p className="text-soft">
          Nothing that was written down or measured beside temperature differs: look at the mount, and at the part itself.
        </p>
      ) : (
        <table className="plain-table">
          <thead>
            <tr>
              <th>Suspect</th>
              <th>{outlier.name}</th>
              <th>{twin?.name}</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {list.map((suspect) => {
              const done = byHand.find((retest) => retest.suspect === suspect.name);
              const planned = study.variants.some(
                (variant) => variant.retest?.variantId === oddId && variant.retest.suspect.toLowerCase() === suspect.name.toLowerCase(),
              );
              return (
                <tr key={suspect.name}>
                  <td className="font-semibold">
                    {suspect.name}
                    <span className="ml-2 text-[0.87rem] font-normal text-soft">
                      {suspect.kind === 'setting' ? 'as set' : 'as measured'}
                    </span>
                  </td>
                  <td>{suspect.outlier}</td>
                  <td>{suspect.twin}</td>
                  <td className="text-right">
                    {planned || done ? (
                      <span className="text-soft">{planned ? 'retest planned' : `changed by ${done!.side.name}`}</span>
                    ) : (
                      <Button disabled={saving.isLoading} onClick={() => void add(suspect.name, suspect.twin)}>
                        Plan a retest
                      </Button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      <Missing missing={missing} />
    </Section>
  );
}
