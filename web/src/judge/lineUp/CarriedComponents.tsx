import { carryOfSide, fixed, lifeIndex, listWords, roomOfSide, type Carry, type SpotCarry } from '@red-ember/core';
import type { StudyBody, StudyLineUp } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { Section } from '../../ui/Section.tsx';

type Field = StudyLineUp['field'];
type Side = Field['sides'][number];

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

/** The most that one component allows, or why that cannot be said. */
function Most({ of }: { of: SpotCarry }) {
  if (!of.maxW) return <span className="text-soft">{of.refusal}</span>;
  return (
    <span className="whitespace-nowrap">
      <b className="font-semibold">{fixed(of.maxW.value, 0)}</b> ± {fixed(of.doubtW, 0)} W
      {of.far ? <span className="text-ochre-text">, far</span> : ''}
    </span>
  );
}

/** What each component allows, on the bench and in the enclosure, the one that binds first. */
export function CarriedComponents({
  field,
  body,
  side,
  bench,
  warm,
  marginK,
}: {
  field: Field;
  body: StudyBody;
  side: Side;
  bench: Carry;
  warm: Carry;
  marginK: number;
}) {
  const degrees = useDegrees();
  return (
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
                <td className="num">
                  <Most of={onBench} />
                </td>
                <td className="num">
                  <Most of={spot} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <CoolAir made={warm} cool={carryOfSide(field, side, body.spots, COOL_AIR_C, marginK)} airC={body.enclosure.airC} />
    </Section>
  );
}

/** How much longer capacitors last below their limit. */
export function CapacitorLife({ body, side }: { body: StudyBody; side: Side }) {
  const degrees = useDegrees();
  const capacitors = body.spots.filter((spot) => spot.componentClass === 'capacitor');
  if (capacitors.length === 0) return null;
  return (
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
  );
}
