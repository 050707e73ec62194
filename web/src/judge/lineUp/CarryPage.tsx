import { carryOfSide, fixed, lifeIndex, listWords, roomOfSide, type Carry, type SpotCarry } from '@red-ember/core';
import { blankJudging, rulesWords } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { sentenceOf } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { NumberField } from '../../ui/Field.tsx';
import { Notice, Waiting } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { EditSheet } from '../../study/EditSheet.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { CarriedLoads, FanNeeded } from './CarriedLoads.tsx';
import { FieldBar, LineUpMargin, Pick } from './LineUpSheet.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { useLineUp } from './useLineUp.ts';

function headingOf(made: Carry, sideName: string, place: string): string {
  const { binding } = made;
  if (!binding?.maxW) return `What ${sideName} carries cannot be said yet.`;
  return `In the ${place}, ${binding.name.toLowerCase()} binds: ${sideName} carries ${fixed(binding.maxW.value, 0)} ± ${fixed(binding.doubtW, 0)} W.`;
}

/** Air that an open window or a duct could bring, °C. */
const COOL_AIR_C = 25;

/** "1.2 + 0.31 P + 0.0021 P²", or the power law where fewer powers were measured. */
function lawWords({ law, losses }: SpotCarry): string {
  if (losses) {
    const { r0, a, c } = losses;
    const terms = [[r0, 1, ''], [a, 2, ' P'], [c, 4, ' P²']] as const; // prettier-ignore
    return terms
      .filter(([value, digits]) => value >= 10 ** -digits / 2)
      .map(([value, digits, of]) => `${fixed(value, digits)}${of}`)
      .join(' + ');
  }
  return law ? `${fixed(Math.exp(law.lnA), 2)} P^${fixed(law.exponent, 2)}` : '';
}

/** What cooler air would buy, in watts of the component that binds. */
function CoolAir({ made, cool, airC }: { made: Carry; cool: Carry; airC: number }) {
  const { text } = useDegrees();
  if (!made.binding?.maxW || !cool.binding?.maxW || airC <= COOL_AIR_C) return null;
  const more = cool.binding.maxW.value - made.binding.maxW.value;
  return (
    <p className="mt-2 text-[0.93rem] text-soft">
      {text(`Intake air of ${COOL_AIR_C} °C in place of ${airC} °C`)} would buy {fixed(more, 0)} W: {fixed(cool.binding.maxW.value, 0)} ±{' '}
      {fixed(cool.binding.doubtW, 0)} W, {cool.binding.name} binds.
    </p>
  );
}

/** How many watts a part carries, which component binds, on the bench and in the enclosure, and what of the loads it may be given. */
export function CarryPage() {
  const study = useStudy();
  const degrees = useDegrees();
  const view = useLineUp(study);
  const { data } = view;
  const sides = data?.field.sides.filter((side) => side.workRuns.length > 0) ?? [];
  const side = sides.find((candidate) => candidate.variantId === view.get('side')) ?? sides[0];
  const unsettled = side ? side.workRuns.flatMap((run) => Object.values(run.points).flat()).filter((point) => !point.settled).length : 0;
  const saved = study.judging ?? blankJudging();
  return (
    <EditSheet
      study={study}
      station="Judge / Carry"
      heading={
        side
          ? headingOf(carryOfSide(data!.field, side, study.spots, study.enclosure.airC, saved.marginK), side.name, study.enclosure.name)
          : (data?.refusal ?? 'Carry')
      }
      under={degrees.text(rulesWords(study))}
      margin={
        <LineUpMargin study={study} view={view}>
          <MarginGroup title="How watts are worked out">
            <Note>
              Rise = r0 + a·P + c·P², none of them below zero, through every load of every run and what was read at rest; half of what a
              power law says otherwise is in the doubt. With fewer than three powers the power law alone speaks, with one its exponent is 1
              and doubted. The limit, less the margin and the air, gives the most.
            </Note>
            {unsettled > 0 ? (
              <Note tone="heat">
                {unsettled} of the points were not settled when they were read: each counts as what it was likely to come to, with that
                doubt.
              </Note>
            ) : null}
            <Note tone="caution">
              Carried beyond 1.3 times the highest power that was measured, a figure is far: measure nearer to it. Count on the lower end.
            </Note>
            <Note tone="caution">
              Never run an unattended load without a cut-out. Mains wiring and the inside of power supplies are not covered here: follow
              local electrical codes.
            </Note>
          </MarginGroup>
        </LineUpMargin>
      }
    >
      {({ body, change }) => {
        if (!data) return view.error ? <Notice tone="error">{sentenceOf(view.error)}</Notice> : <Waiting what="Reading the runs" />;
        const judging = body.judging ?? blankJudging();
        if (!side)
          return (
            <>
              <JudgeTabs />
              <Notice tone="hint">This page fills itself as soon as runs with a power reading have ended.</Notice>
            </>
          );
        const margin = Number.isFinite(judging.marginK) ? Math.max(0, judging.marginK) : 0;
        const bench = carryOfSide(data.field, side, body.spots, roomOfSide(side), margin);
        const warm = carryOfSide(data.field, side, body.spots, body.enclosure.airC, margin);
        const capacitors = body.spots.filter((spot) => spot.componentClass === 'capacitor');
        return (
          <>
            <JudgeTabs />
            <div className="mb-5 flex flex-wrap items-end gap-x-6 gap-y-2">
              <Pick
                label="Of"
                value={side.variantId}
                options={sides.map(({ variantId, name }) => ({ value: variantId, label: name }))}
                onChange={(chosen) => view.put({ side: chosen })}
              />
              <NumberField
                label="Kept free below every limit"
                unit="K"
                pointer="/judging/marginK"
                className="w-44"
                value={judging.marginK}
                onChange={(marginK) => change({ judging: { ...judging, marginK } })}
              />
              <NumberField
                label={`Air in the ${body.enclosure.name}`}
                unit="°C"
                pointer="/enclosure/airC"
                className="w-44"
                value={body.enclosure.airC}
                onChange={(airC) => change({ enclosure: { ...body.enclosure, airC } })}
              />
              <FieldBar view={view} pick={false} sides={false} loads={false} />
            </div>
            <Section title="Each component" hint="the one that binds first">
              <table className="plain-table">
                <thead>
                  <tr>
                    <th>Component</th>
                    <th className="num">limit, {degrees.tempUnit}</th>
                    <th className="num">points</th>
                    <th>rise, P in W</th>
                    <th className="num">bench at {degrees.text(`${fixed(roomOfSide(side), 1)} °C`)}</th>
                    <th className="num">
                      {body.enclosure.name} at {degrees.text(`${body.enclosure.airC} °C`)}
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {warm.spots.map((spot, i) => {
                    const onBench = bench.spots.find((candidate) => candidate.id === spot.id)!;
                    const cell = (made: typeof spot) =>
                      made.maxW ? (
                        <span className="whitespace-nowrap">
                          <b className="font-semibold">{fixed(made.maxW.value, 0)}</b> ± {fixed(made.doubtW, 0)} W
                          {made.far ? <span className="text-ochre-text">, far</span> : ''}
                        </span>
                      ) : (
                        <span className="text-soft">{made.refusal}</span>
                      );
                    return (
                      <tr key={spot.id}>
                        <td className="font-semibold">
                          {spot.name}
                          {i === 0 && spot.maxW ? <span className="ml-2 font-normal text-ember-text">binds</span> : null}
                        </td>
                        <td className="num" title={spot.limitSource}>
                          {fixed(degrees.temp(spot.limitC), 0)}
                        </td>
                        <td className="num">{spot.points}</td>
                        <td className="whitespace-nowrap">{lawWords(spot)}</td>
                        <td className="num">{cell(onBench)}</td>
                        <td className="num">{cell(spot)}</td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
              <CoolAir made={warm} cool={carryOfSide(data.field, side, body.spots, COOL_AIR_C, margin)} airC={body.enclosure.airC} />
            </Section>
            <CarriedLoads
              side={side}
              judging={judging}
              change={(next) => change({ judging: next })}
              airs={[
                { name: 'on the bench', made: bench, airC: roomOfSide(side) },
                { name: `in the ${body.enclosure.name}`, made: warm, airC: body.enclosure.airC },
              ]}
            />
            <FanNeeded body={body} side={side} judging={judging} marginK={margin} />
            {capacitors.length > 0 ? (
              <Section title="Life of the capacitors" hint={degrees.text('rule of thumb: twice as long for every 10 K below the limit')}>
                <p>
                  {listWords(
                    capacitors.flatMap((spot) => {
                      const rises = side.workRuns.flatMap((run) => (run.points[spot.id] ?? []).map((point) => point.rise.value));
                      if (rises.length === 0) return [];
                      const at = body.enclosure.airC + Math.max(...rises);
                      return [
                        degrees.text(
                          `${spot.name}: ${fixed(lifeIndex(at, spot.limitC), 1)} times as long as at ${spot.limitC} °C, at the warmest load (${fixed(at, 0)} °C in the ${body.enclosure.name})`,
                        ),
                      ];
                    }),
                  ) || 'No capacitor was read.'}
                </p>
              </Section>
            ) : null}
          </>
        );
      }}
    </EditSheet>
  );
}
