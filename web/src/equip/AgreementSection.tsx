import { CartesianGrid, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from 'recharts';
import { fixed, listWords, measured, signed } from '@red-ember/core';
import type { StudyBody, TwinReading } from '@red-ember/contract';
import { heldAgainst } from '@red-ember/study';
import { useAgreementsQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { Section } from '../ui/Section.tsx';
import { Shown } from '../ui/Shown.tsx';

function Plot({ twin }: { twin: TwinReading }) {
  const { temp, step, tempUnit, stepUnit } = useDegrees();
  const points = twin.points.map(({ meanC, differenceK }) => ({ mean: temp(meanC), difference: step(differenceK) }));
  const line = (differenceK: number, dash?: string) => (
    <ReferenceLine y={step(differenceK)} stroke="var(--ember-text)" strokeDasharray={dash} ifOverflow="extendDomain" />
  );
  return (
    <ResponsiveContainer width="100%" height={210}>
      <ScatterChart margin={{ top: 8, right: 8, bottom: 18, left: 0 }}>
        <CartesianGrid stroke="var(--rule)" vertical={false} />
        <XAxis
          type="number"
          dataKey="mean"
          domain={['dataMin', 'dataMax']}
          tickFormatter={(value: number) => fixed(value, 0)}
          stroke="var(--stone)"
          label={{ value: `mean of both, ${tempUnit}`, position: 'insideBottom', offset: -10, fill: 'var(--soft)', fontSize: 12 }}
        />
        <YAxis
          type="number"
          dataKey="difference"
          tickFormatter={(value: number) => fixed(value, 0)}
          stroke="var(--stone)"
          width={36}
          unit={` ${stepUnit}`}
        />
        <Scatter data={points} fill="var(--ink)" fillOpacity={0.45} isAnimationActive={false} shape={<circle r={2} />} />
        {line(twin.agreement.bias.value)}
        {line(twin.agreement.lower, '5 4')}
        {line(twin.agreement.upper, '5 4')}
      </ScatterChart>
    </ResponsiveContainer>
  );
}

/** Sensors on one place, held against each other in the newest run that has both. */
export function AgreementSection({ body, studyId }: { body: StudyBody; studyId: string }) {
  const { data: twins = [] } = useAgreementsQuery(studyId);
  const paired = body.spots.flatMap((spot) => {
    const against = heldAgainst(spot, body.spots);
    return against ? [{ spot, against }] : [];
  });
  const nameOf = (id: string) => body.spots.find((spot) => spot.id === id)?.name ?? 'a spot that is gone';
  return (
    <Section
      title="Do they agree?"
      hint="two sensors on one place, or a part’s own and the hottest attached to its kind: difference against level, with the limits that hold 95 in 100"
    >
      {paired.length === 0 ? (
        <p className="text-soft">
          No two spots read the same place, and no sensor of the part’s own has one attached beside it. Say at a sensor above which other
          reads its place, and every run will hold them against each other.
        </p>
      ) : null}
      {paired.map(({ spot, against }) => {
        const all = twins.filter((twin) => twin.bId === spot.id);
        const twin = all.at(-1);
        if (!twin)
          return (
            <p key={spot.id} className="text-soft">
              {listWords(against.ids.map(nameOf))} and {spot.name}: no run has read both yet.
            </p>
          );
        const { bias, lower, upper, trendPerK } = twin.agreement;
        return (
          <div key={spot.id} className="mb-4 grid gap-6 border-t border-rule pt-3 md:grid-cols-[minmax(0,1fr)_17rem]">
            <figure aria-label={`${nameOf(twin.aId)} minus ${spot.name} against their mean`}>
              <figcaption className="mb-1 text-[0.93rem] text-soft">
                {nameOf(twin.aId)} minus <b className="font-semibold text-ink">{spot.name}</b>, run {twin.runNumber}
              </figcaption>
              <Plot twin={twin} />
            </figure>
            <Shown>
              <dl className="grid content-start gap-y-1 text-[0.93rem] [&_dd]:mb-1 [&_dt]:text-soft">
                <dt>bias</dt>
                <dd className="font-semibold">{measured(bias.value, 2 * bias.u, 'K', { sign: true })}</dd>
                <dt>95 in 100 differences lie between</dt>
                <dd>
                  {signed(lower, 1)} K and {signed(upper, 1)} K
                </dd>
                <dt>grows with the level by</dt>
                <dd>
                  {signed(100 * trendPerK.value, 1)} ± {fixed(200 * trendPerK.u, 1)} %
                </dd>
                <dt>near the limit</dt>
                <dd className={twin.flag && twin.biasAtLimitK > 0 ? 'font-semibold text-ember-text' : ''}>
                  {twin.flag ?? (against.samePlace ? 'They agree within a kelvin.' : 'It reads no lower.')}
                </dd>
                <dt className="mt-1">in {all.length === 1 ? 'one run' : `all ${all.length} runs`}</dt>
                <dd>{all.map((entry) => `${signed(entry.agreement.bias.value, 1)} K`).join(', ')}</dd>
              </dl>
            </Shown>
          </div>
        );
      })}
    </Section>
  );
}
