import {
  departures,
  fixed,
  InsufficientDataError,
  judgeRetest,
  retestsByHand,
  type Departure,
  type LineUpSide,
  type Retest,
  midSentence,
} from '@red-ember/core';
import { type Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { Term } from '../../words/Term.tsx';
import { LineUpSheet } from './LineUpSheet.tsx';
import { IntervalPlot } from './IntervalPlot.tsx';
import { WhatElseChanged } from './WhatElseChanged.tsx';
import { useLineUp, type LineUpView } from './useLineUp.ts';

/** Retests are not results of their own: they must not hide what they are to explain. */
function originals(study: Study, view: LineUpView): LineUpSide[] {
  const retested = new Set(study.variants.filter((variant) => variant.retest).map((variant) => variant.id));
  return view.data!.field.sides.filter((side) => side.runs.length > 0 && !retested.has(side.variantId));
}

/** What was planned as a retest of the odd one, and what is one by what was set. */
function retestsOf(study: Study, sides: LineUpSide[], outlier: LineUpSide, twin: LineUpSide): LineUpSide[] {
  const planned = new Map(study.variants.flatMap(({ id, retest }) => (retest ? [[id, retest.variantId]] : [])));
  const byHand = retestsByHand(sides, outlier, twin).flatMap(({ side }) => (planned.has(side.variantId) ? [] : [side]));
  return [...sides.filter((side) => planned.get(side.variantId) === outlier.variantId), ...byHand];
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
      ? retestsOf(study, view.data!.field.sides, outlier, twin).map((side) => judgeRetest(view.data!.field, spotId, outlier, twin, side))
      : [];
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
            <Note>
              Each result is held against the mean of the others by the spread among the others, corrected by <Term word="Holm" />.
            </Note>
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
        <Section title={`How far off each lies, ${midSentence(view.name)}`} hint="from the mean of the others">
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
      {outlier ? <WhatElseChanged study={study} sides={sides} outlier={outlier} twin={twin} onPick={view.put} /> : null}
    </LineUpSheet>
  );
}
