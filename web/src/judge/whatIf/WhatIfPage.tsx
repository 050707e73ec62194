import { useState } from 'react';
import { capital, counted, duration, fixed, headroomWords } from '@red-ember/core';
import { CHANNELS, type Study, type VariantResponses } from '@red-ember/contract';
import { sentenceOf } from '../../data/api.ts';
import { useDegrees } from '../../data/useDegrees.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { EditSheet } from '../../study/EditSheet.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import type { StudyDraft } from '../../study/useStudyDraft.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { Pick } from '../../ui/Pick.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { ReadingRuns } from '../ReadingRuns.tsx';
import { changeWords, withWhatIf } from './asVariant.ts';
import { Levers } from './Levers.tsx';
import { useWhatIf, type SpotWhatIf } from './useWhatIf.ts';
import { WayUp, WouldBe } from './WouldBe.tsx';

type View = ReturnType<typeof useWhatIf>;

function headingOf(spots: SpotWhatIf[]): string {
  const binding = spots[0];
  if (!binding) return 'What if it were otherwise?';
  const { name, would, limitC } = binding;
  const settles = `${name} would settle at ${fixed(would.settledC.value, 1)} °C ± ${fixed(would.plusMinusK, 1)} K, ${headroomWords(limitC - would.settledC.value, 0)}.`;
  if (would.changes.length === 0)
    return `As it ran, ${name} settles at ${fixed(would.settledC.value, 1)} °C ± ${fixed(would.plusMinusK, 1)} K.`;
  return would.beyond ? `Beyond what was measured: ${settles}` : settles;
}

/** What the figures rest on: which runs, how well they foretell each other, and what nobody has tried. */
function RestsOn({ study, data, spots }: { study: Study; data: VariantResponses; spots: SpotWhatIf[] }) {
  const { text } = useDegrees();
  const unseen = data.spots.flatMap((spot) => spot.unseen);
  const held = unseen.filter(({ offK, bandK }) => Math.abs(offK) <= bandK).length;
  const worst = unseen.reduce((most, { offK }) => Math.max(most, Math.abs(offK)), 0);
  const nameOf = (id: string) => study.spots.find((spot) => spot.id === id)?.name ?? '';
  const missing = data.spots.filter(({ response }) => !response);
  return (
    <>
      <MarginGroup title="What it rests on">
        <Note>
          {data.runs.length === 0
            ? 'No run.'
            : `All that ${counted(data.runs.length, 'run')} recorded (${data.runs.map(({ number }) => number).join(', ')}): the ${CHANNELS[data.standsOn].label}, and what each watt brings, some of it at once and some late.`}
        </Note>
        {data.drivenBy === 'load' && data.runs.length > 0 ? (
          <Note tone="caution">Nobody recorded watts: the load is taken as it was asked for, full or off.</Note>
        ) : null}
        {unseen.length > 0 ? (
          <Note tone={held === unseen.length ? 'plain' : 'caution'}>
            {text(
              `Each run foretold from the others: ${held} of ${unseen.length} within their 95 % band, at most ${fixed(worst, 1)} K off.`,
            )}
          </Note>
        ) : data.runs.length === 1 ? (
          <Note tone="caution">One run foretells no other: how far mounts lie apart is what the bench knows, or assumed.</Note>
        ) : null}
        {spots.some(({ response }) => !response.power.told) ? (
          <Note tone="caution">Its power hardly changed: what another would do is a guess.</Note>
        ) : null}
      </MarginGroup>
      {data.leftOut.length > 0 || missing.length > 0 ? (
        <MarginGroup title="Left out">
          {data.leftOut.map(({ number, why }) => (
            <Note key={number} lead={`Run ${number}.`}>
              {text(why)}
            </Note>
          ))}
          {missing.map(({ spotId, why }) => (
            <Note key={spotId} lead={`${nameOf(spotId)}.`}>
              {why}
            </Note>
          ))}
        </MarginGroup>
      ) : null}
      <MarginGroup title="What it cannot tell">
        {spots[0] ? <Note>What goes slower than its longest run, {duration(spots[0].response.longestS)} of it.</Note> : null}
        <Note>
          Where the heat goes on its way, so not what a cover taken off would do
          {data.neighbour ? '' : ', nor a part beside it whose power nobody recorded'}.
        </Note>
        <Note>A fan that is free: it is held at the speed you ask for.</Note>
        <Note tone="caution">
          Nothing here is a verdict. A limit that is near in doubt is a limit to be measured, with a cut-out armed.
        </Note>
      </MarginGroup>
    </>
  );
}

/** Puts what is asked into the plan, with what is expected of it written down before it is run. */
function MakeVariant({ view, draft }: { view: View; draft: StudyDraft }) {
  const [made, setMade] = useState<string | null>(null);
  const words = changeWords(view.asked);
  const { variant, data, ofReference } = view;
  if (made === words && words !== '')
    return (
      <Notice tone="hint">It stands in the plan now, with what is expected of it. Save to keep it; mount and run it like any other.</Notice>
    );
  const make = () => {
    draft.change(withWhatIf(draft.body, variant!, view.asked, { variant: data!, reference: ofReference! }));
    setMade(words);
  };
  return (
    <p className="mt-3 flex flex-wrap items-baseline gap-3">
      <Button disabled={words === '' || !ofReference || !data} onClick={make}>
        Make it a variant
      </Button>
      <span className="text-[0.87rem] text-soft">
        {words === ''
          ? 'Ask for a speed, a layer or a cooler: air and powers are the same for every variant.'
          : 'with what it should come to against the reference written down as a prediction'}
      </span>
    </p>
  );
}

/** What the runs of a variant say it would be in other air, at other power or speed, with another layer or cooler. */
export function WhatIfPage() {
  const study = useStudy();
  const degrees = useDegrees();
  const view = useWhatIf(study);
  const [chosen, setChosen] = useState<string | null>(null);
  const { data, spots, variant } = view;
  const spot = spots.find(({ id }) => id === chosen) ?? spots[0];
  return (
    <EditSheet
      study={study}
      station="Judge / What if"
      heading={degrees.text(headingOf(spots))}
      under={
        variant && spots[0]
          ? `${capital(variant.name)}, ${spots[0].would.changes.length === 0 ? 'nothing changed yet: move a lever' : 'foretold from its own runs'}`
          : undefined
      }
      margin={data ? <RestsOn study={study} data={data} spots={spots} /> : null}
    >
      {(draft) => (
        <>
          <JudgeTabs />
          {view.error ? <Notice tone="error">{sentenceOf(view.error)}</Notice> : null}
          {!variant ? <Notice tone="hint">This page fills itself as soon as a run has ended.</Notice> : null}
          {variant && !data && !view.error ? <ReadingRuns studyId={study.id} /> : null}
          {variant && data ? (
            <div className="grid gap-x-7 gap-y-5 lg:grid-cols-[16.5rem_1fr]">
              <div>
                {view.variants.length > 1 ? (
                  <p className="mb-3">
                    <Pick
                      label="Of"
                      value={variant.id}
                      options={view.variants.map(({ id, name }) => ({ value: id, label: name }))}
                      onChange={view.choose}
                    />
                  </p>
                ) : null}
                {data.airs.length > 1 ? (
                  <p className="mb-3">
                    <Pick
                      label="Rise over"
                      value={data.standsOn}
                      options={data.airs.map((air) => ({ value: air, label: CHANNELS[air].label }))}
                      onChange={view.standOn}
                    />
                  </p>
                ) : null}
                {spot ? (
                  <Levers
                    study={study}
                    recorded={data.neighbour}
                    drivenBy={data.drivenBy}
                    standsOn={data.standsOn}
                    spot={spot}
                    spots={spots}
                    asked={view.asked}
                    ask={view.ask}
                  />
                ) : null}
                {spot ? <MakeVariant view={view} draft={draft} /> : null}
              </div>
              {spot ? (
                <div className="min-w-0">
                  <WouldBe spots={spots} chosen={spot.id} onChoose={setChosen} />
                  <div className="h-5" />
                  <Section title={`${spot.name}, from rest on`} hint="the load comes on at 0">
                    <WayUp spot={spot} />
                  </Section>
                </div>
              ) : (
                <Notice tone="hint">
                  Nothing of {variant.name} could be fitted: {[...new Set(data.spots.map(({ why }) => why))].join(' ')}
                </Notice>
              )}
            </div>
          ) : null}
        </>
      )}
    </EditSheet>
  );
}
