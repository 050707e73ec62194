import { useState } from 'react';
import { suspects, type LineUpSide } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { bodyOf, ownFiguresOf } from '@red-ember/study';
import { sentenceOf, useSaveStudyMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { Pick } from './LineUpSheet.tsx';

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
  const [save, saving] = useSaveStudyMutation();
  const [said, setSaid] = useState('');
  const oddId = outlier.variantId;
  const list = twin ? suspects(outlier, twin, { own: ownFiguresOf(study) }) : [];
  const add = async (suspect: string, toWhat: string) => {
    const of = study.variants.find((variant) => variant.id === oddId)!;
    const name = `${of.name}, ${suspect.toLowerCase()} as ${twin!.name}`.slice(0, 60);
    const variant = {
      ...of,
      id: crypto.randomUUID(),
      name,
      isReference: false,
      setup: '',
      notes: `Retest of ${of.name} with one suspect changed: ${suspect} ${toWhat}. Everything else stays.`.slice(0, 500),
      repeats: 2,
      retest: { variantId: oddId, suspect: suspect.slice(0, 80) },
    };
    const done = await save({ id: study.id, version: study.version, body: { ...bodyOf(study), variants: [...study.variants, variant] } });
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
                    {planned ? (
                      <span className="text-soft">retest planned</span>
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
    </Section>
  );
}
