import { useState } from 'react';
import {
  departures,
  fixed,
  InsufficientDataError,
  judgeRetest,
  suspects,
  type Departure,
  type LineUpSide,
  type Retest,
} from '@red-ember/core';
import { type Study } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { sentenceOf, useSaveStudyMutation } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { LineUpSheet, Pick } from './LineUpSheet.tsx';
import { IntervalPlot } from './IntervalPlot.tsx';
import { useLineUp, type LineUpView } from './useLineUp.ts';

/** Retests are not results of their own: they must not hide what they are to explain. */
function originals(study: Study, view: LineUpView): LineUpSide[] {
  const retested = new Set(study.variants.filter((variant) => variant.retest).map((variant) => variant.id));
  return view.data!.field.sides.filter((side) => side.runs.length > 0 && !retested.has(side.variantId));
}

function departuresOf(view: LineUpView, sides: LineUpSide[], spotId: string): Departure[] | string {
  try {
    return departures({ ...view.data!.field, sides }, spotId);
  } catch (error) {
    if (error instanceof InsufficientDataError) return error.message;
    throw error;
  }
}

const TONES: Record<Retest['outcome'], 'heat' | 'caution' | 'plain' | 'cool'> = {
  'it-was': 'heat',
  'part-of-it': 'caution',
  'it-was-not': 'cool',
  'cannot-tell': 'plain',
};

function headingOf(outlier: LineUpSide | undefined, retests: Retest[], departs: boolean): string {
  if (!outlier) return 'Nothing stands out.';
  const found = retests.find((retest) => retest.outcome === 'it-was');
  const cleared = retests.filter((retest) => retest.outcome === 'it-was-not').map((retest) => retest.name);
  if (found) return `${found.name}: it was this${cleared.length > 0 ? `, and not ${cleared.join(' nor ')}` : ''}.`;
  if (cleared.length > 0) return `What made ${outlier.name} stand out is not found yet; it was not ${cleared.join(' nor ')}.`;
  return departs ? `${outlier.name} departs from all others.` : `${outlier.name} lies furthest off, no further than these scatter.`;
}

/** A result that departs: what differs from its twin, one-change retests, and afterwards what it was and what it was not. */
export function OddPage() {
  const study = useStudy();
  const { text } = useDegrees();
  const view = useLineUp(study);
  const [save, saving] = useSaveStudyMutation();
  const [said, setSaid] = useState('');
  const spotId = 'spotId' in view.key ? view.key.spotId : '';
  const sides = view.data && !view.data.refusal ? originals(study, view) : [];
  const result = sides.length > 0 && spotId ? departuresOf(view, sides, spotId) : null;
  const made = result !== null && typeof result !== 'string' ? result : null;
  const retested = study.variants.find((variant) => variant.retest)?.retest?.variantId;
  const oddId = view.get('odd') ?? retested ?? made?.[0]?.variantId ?? sides[0]?.variantId ?? '';
  const outlier = sides.find((side) => side.variantId === oddId);
  const wordsOf = (name: string) =>
    name
      .split(/[\s,]+/)
      .slice(0, 2)
      .join(' ');
  const alike = sides.find((side) => side.variantId !== oddId && outlier && wordsOf(side.name) === wordsOf(outlier.name));
  const twinId = view.get('twin') ?? alike?.variantId ?? sides.find((side) => side.variantId !== oddId)?.variantId ?? '';
  const twin = sides.find((side) => side.variantId === twinId && side.variantId !== oddId);
  const retests =
    outlier && twin && spotId
      ? study.variants
          .filter((variant) => variant.retest?.variantId === oddId)
          .flatMap((variant) => view.data!.field.sides.filter((side) => side.variantId === variant.id))
          .map((side) => judgeRetest(view.data!.field, spotId, outlier, twin, side))
      : [];
  const list = outlier && twin ? suspects(outlier, twin) : [];
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
  const apart = made?.filter((entry) => entry.call) ?? [];
  const departs = made?.find((entry) => entry.variantId === oddId)?.departs ?? false;
  return (
    <LineUpSheet
      study={study}
      view={view}
      page="Odd one out"
      heading={
        typeof result === 'string' && retests.length === 0 ? `No outlier can be named: ${result}.` : headingOf(outlier, retests, departs)
      }
      margin={
        <>
          <MarginGroup title="Before anyone is blamed">
            <Note>Each result is held against the mean of the others by the spread among the others, corrected by Holm.</Note>
            <Note>
              Change one suspect at a time and run again: what closes the gap to the twin was the cause, what moves nothing was not.
            </Note>
          </MarginGroup>
          {apart.length > 0 ? (
            <MarginGroup title="Not held against the others">
              {apart.map((entry) => (
                <Note key={entry.variantId} tone="caution">
                  <b>{entry.name}.</b> {text(entry.call?.why ?? '')}
                </Note>
              ))}
            </MarginGroup>
          ) : null}
          {retests.length > 0 ? (
            <MarginGroup title="What the retests say">
              {retests.map((retest) => (
                <Note key={retest.variantId} tone={TONES[retest.outcome]}>
                  {text(retest.sentence)}
                </Note>
              ))}
            </MarginGroup>
          ) : null}
        </>
      }
    >
      {made ? (
        <Section title={`How far off each lies, ${view.name.toLowerCase()}`} hint="from the mean of the others">
          <IntervalPlot
            label="Departures"
            unit={view.stepUnit}
            zero
            rows={made.map((entry) => ({
              id: entry.variantId,
              name: entry.name,
              value: view.showStep(entry.offK),
              halfWidth: null,
              hint: entry.call
                ? 'not held against the others'
                : `p ${entry.p < 0.001 ? 'under 0.001' : fixed(entry.p, 3)}${entry.departs ? ', departs' : ''}`,
              right: `${entry.offK > 0 ? '+' : '−'}${fixed(Math.abs(view.showStep(entry.offK)), 1)} ${view.stepUnit}`,
              tone: entry.departs ? 'ember' : 'stone',
            }))}
          />
        </Section>
      ) : typeof result === 'string' ? (
        <Notice tone="hint">{result[0]!.toUpperCase() + result.slice(1)}. A pair can still be held against each other below.</Notice>
      ) : null}
      {outlier ? (
        <Section
          title="What else changed?"
          action={
            <span className="flex flex-wrap gap-4">
              <Pick
                label="Odd"
                value={oddId}
                options={sides.map((side) => ({ value: side.variantId, label: side.name }))}
                onChange={(odd) => view.put({ odd })}
              />
              <Pick
                label="Twin"
                value={twinId}
                options={sides.filter((side) => side.variantId !== oddId).map((side) => ({ value: side.variantId, label: side.name }))}
                onChange={(next) => view.put({ twin: next })}
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
      ) : null}
    </LineUpSheet>
  );
}
