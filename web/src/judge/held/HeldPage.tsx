import { CartesianGrid, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from 'recharts';
import { capital, fixed, LIMITER_WORDS, listWords, type HeldBy } from '@red-ember/core';
import type { RunHeldBack, Study } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { sentenceOf, useHeldBackQuery } from '../../data/api.ts';
import { useDegrees } from '../../data/useDegrees.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { valueTicks } from '../../ui/tracePath.ts';
import { useStudy } from '../../study/StudyFrame.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { ReadingRuns } from '../ReadingRuns.tsx';
import { heldByVariant, type HeldVariant } from './heldByVariant.ts';

/** Each is hatched in a way of its own, so that it needs no colour to be told. */
const FILL: Record<HeldBy | 'free', string> = {
  free: 'var(--rule)',
  thermal: 'var(--ember)',
  power: 'repeating-linear-gradient(45deg, var(--ochre) 0 4px, transparent 4px 8px), var(--paper)',
  'voltage-or-clock-cap': 'repeating-linear-gradient(0deg, var(--quench) 0 2px, transparent 2px 6px), var(--paper)',
  load: 'repeating-linear-gradient(90deg, var(--stone) 0 2px, transparent 2px 6px), var(--paper)',
  vanished: 'var(--ink)',
  unknown: 'repeating-linear-gradient(135deg, var(--stone) 0 1px, transparent 1px 4px), var(--paper)',
};

const percent = (share: number) => `${fixed(100 * share, share > 0 && share < 0.1 ? 1 : 0)} %`;

/** Shares of a variant's loads: what held it, and what ran free. */
function Bar({ held }: { held: HeldVariant }) {
  const parts: { key: HeldBy | 'free'; share: number }[] = [
    ...held.by.map(({ limiter, share }) => ({ key: limiter, share })),
    { key: 'free', share: held.free },
  ];
  const words = parts.filter(({ share }) => share >= 0.0005).map(({ key, share }) => `${key === 'free' ? 'free' : LIMITER_WORDS[key]} ${percent(share)}`); // prettier-ignore
  return (
    <>
      <div className="flex h-5 w-full min-w-40 border border-rule" role="img" aria-label={`${held.name}: ${words.join(', ')}`}>
        {parts.map(({ key, share }) => (
          <span key={key} style={{ width: `${100 * share}%`, background: FILL[key] }} />
        ))}
      </div>
      <span className="block text-[0.87rem] text-soft">{words.join(', ')}</span>
    </>
  );
}

/** Clock, or work, against temperature for one variant, on the scales of all of them. */
function Cloud({ held, domain, limitC, unit }: { held: HeldVariant; domain: Domain; limitC: number | null; unit: string }) {
  const degrees = useDegrees();
  const x: [number, number] = [degrees.temp(domain.x[0]), degrees.temp(domain.x[1])];
  const points = held.runs.flatMap(({ cloud }) => cloud.map(({ x, y }) => ({ x: degrees.temp(x), y })));
  return (
    <figure aria-label={`${held.name}: ${unit} against ${degrees.tempUnit}`}>
      <figcaption className="mb-1 font-semibold">{held.name}</figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <ScatterChart margin={{ top: 6, right: 10, bottom: 14, left: 0 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis
            type="number"
            dataKey="x"
            domain={x}
            ticks={valueTicks(...x)}
            stroke="var(--stone)"
            tickLine={false}
            tickFormatter={(value: number) => fixed(value, 0)}
            label={{ value: degrees.tempUnit, position: 'insideBottomRight', offset: -8, fill: 'var(--soft)', fontSize: 12 }}
          />
          <YAxis
            type="number"
            dataKey="y"
            domain={domain.y}
            ticks={valueTicks(...domain.y)}
            width={56}
            axisLine={false}
            tickLine={false}
            tickFormatter={(value: number) => fixed(value, 0)}
          />
          {limitC === null ? null : <ReferenceLine x={degrees.temp(limitC)} stroke="var(--ember-text)" strokeDasharray="5 4" />}
          <Scatter data={points} fill="var(--ink)" fillOpacity={0.4} isAnimationActive={false} shape={<circle r={2} />} />
        </ScatterChart>
      </ResponsiveContainer>
    </figure>
  );
}

interface Domain {
  x: [number, number];
  y: [number, number];
}

/** Scales on which every cloud has room; null without a point. */
function domainOf(runs: readonly RunHeldBack[]): Domain | null {
  const points = runs.flatMap(({ cloud }) => cloud);
  if (points.length === 0) return null;
  const around = (values: number[]): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)];
    // A clock that never moves is drawn as one that does not, and not its flicker over the whole height.
    const room = Math.max(1, 0.06 * (high - low), 0.02 * high);
    return [low - room, high + room];
  };
  return { x: around(points.map(({ x }) => x)), y: around(points.map(({ y }) => y)) };
}

const shareOf = ({ by }: HeldVariant, limiter: HeldBy): number => by.find((entry) => entry.limiter === limiter)?.share ?? 0;

/** Less left undone than this says nothing. */
const TELLING = 0.01;

function headingOf(all: readonly HeldVariant[]): string {
  const held = all.filter(({ free }) => free < 0.995);
  const behind = [...all].sort((p, q) => (q.leftBehind ?? 0) - (p.leftBehind ?? 0))[0]!;
  if (held.length === 0)
    return (behind.leftBehind ?? 0) < TELLING
      ? 'Nothing held any of them back.'
      : `Nothing was seen to hold ${behind.name} back, and it left ${percent(behind.leftBehind!)} undone.`;
  // Heat is what a cooler can do something about: it goes before what holds all of them alike.
  const hottest = [...held].sort((p, q) => shareOf(q, 'thermal') - shareOf(p, 'thermal'))[0]!;
  const byHeat = shareOf(hottest, 'thermal') >= TELLING;
  const worst = byHeat ? hottest : held.reduce((most, one) => (one.free < most.free ? one : most));
  const limiter = byHeat ? 'thermal' : worst.by[0]!.limiter;
  return `${capital(LIMITER_WORDS[limiter])} held ${worst.name} for ${percent(shareOf(worst, limiter))} of its load.`;
}

/** The same variants with those runs alone whose clouds are in one unit. */
const inUnit = (all: readonly HeldVariant[], of: RunHeldBack['cloudOf']): HeldVariant[] =>
  all.map((held) => ({ ...held, runs: held.runs.filter((run) => run.cloudOf === of) })).filter(({ runs }) => runs.length > 0);

function Clouds({ study, all }: { study: Study; all: readonly HeldVariant[] }) {
  const every = all.flatMap((held) => held.runs);
  // Scales are shared: work does not go on one with clocks, and where there are clocks they say more.
  const of = every.some((run) => run.cloudOf === 'clock') ? 'clock' : 'performance';
  const drawn = inUnit(all, of);
  const runs = drawn.flatMap((held) => held.runs);
  const without = every.filter((run) => run.cloudOf !== of).map(({ runNumber }) => String(runNumber));
  const domain = domainOf(runs);
  if (!domain) return null;
  const spot = study.spots.find(({ id }) => id === runs.find(({ spotId }) => spotId !== null)?.spotId);
  const unit = of === 'clock' ? 'MHz' : 'work';
  return (
    <Section
      title={`${of === 'clock' ? 'Clock' : 'Work'} against temperature${spot ? `, ${spot.name}` : ''}`}
      hint={
        spot?.throttleC == null
          ? 'means over equal stretches of the load'
          : 'means over equal stretches of the load; dashed: where it throttles'
      }
    >
      <div className="grid gap-x-6 gap-y-4 md:grid-cols-2 xl:grid-cols-3">
        {drawn.map((held) => (
          <Cloud key={held.id} held={held} domain={domain} limitC={spot?.throttleC ?? null} unit={unit} />
        ))}
      </div>
      {without.length > 0 ? (
        <p className="mt-2 text-[0.93rem] text-soft">
          {without.length === 1 ? 'Run' : 'Runs'} {listWords(without)} recorded no clock and {without.length === 1 ? 'is' : 'are'} not drawn
          here.
        </p>
      ) : null}
    </Section>
  );
}

/** What holds the part back: shares of the load, what it cost, and clock against temperature. */
export function HeldPage() {
  const study = useStudy();
  const { currentData, error, isLoading } = useHeldBackQuery(study.id);
  const all = currentData ? heldByVariant(study, currentData) : [];
  const best = currentData?.best ?? null;
  return (
    <Sheet
      crumb={`${study.title} / Judge / Held back`}
      windowTitle={`Held back, ${study.title}`}
      heading={all.length > 0 ? headingOf(all) : 'What holds it back'}
      margin={
        <MarginGroup title="How it is counted">
          <Note>
            Shares are of the last load of each run; of what comes and goes only the time spent below counts. Within two in a hundred of a
            power cap that stands at Hold with its channel, the part is held by it, and by a lack of work where it is busy for less than 90
            %; a limit that stands all along and that nobody wrote down does not show.
          </Note>
          {best ? (
            <Note>
              Left behind is against {fixed(best.value, best.value < 200 ? 1 : 0)}{' '}
              {currentData!.runs[0]?.of === 'clock' ? 'MHz' : familyOf(study.family).throughputUnit} that run {best.runNumber} kept up with
              nothing against it{best.atLimit ? ' but its power limit' : ''}: the best that was seen, not the best there is.
            </Note>
          ) : null}
        </MarginGroup>
      }
    >
      <JudgeTabs />
      {isLoading ? <ReadingRuns studyId={study.id} /> : null}
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {currentData && all.length === 0 ? (
        <Notice tone="hint">Nothing was watched yet that says how much the part did: record its throughput, or its clock.</Notice>
      ) : null}
      {all.length > 0 ? (
        <>
          <Section title="Shares of the load">
            <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Shares of the load">
              <table className="plain-table">
                <thead>
                  <tr>
                    <th>Variant</th>
                    <th className="num">runs</th>
                    <th className="w-1/2">held back by</th>
                    <th className="num">left behind</th>
                    {all.some(({ power }) => power) ? <th className="num">at the socket, at the part</th> : null}
                  </tr>
                </thead>
                <tbody>
                  {all.map((held) => (
                    <tr key={held.id}>
                      <td className="font-semibold">{held.name}</td>
                      <td className="num">{held.runs.length}</td>
                      <td>
                        <Bar held={held} />
                      </td>
                      <td className="num">{held.leftBehind === null ? '' : percent(held.leftBehind)}</td>
                      {all.some(({ power }) => power) ? <td className="num">{held.power ? <Power of={held.power} /> : ''}</td> : null}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </Section>
          <Clouds study={study} all={all} />
        </>
      ) : null}
    </Sheet>
  );
}

/** What is taken at the socket, and how much of it the part does not take. */
function Power({ of: { wallW, partW } }: { of: NonNullable<HeldVariant['power']> }) {
  return (
    <>
      {fixed(wallW, 0)} W, {fixed(partW, 0)} W
      <span className="block text-[0.87rem] text-soft">
        {fixed(wallW - partW, 0)} W elsewhere, {percent((wallW - partW) / wallW)}
      </span>
    </>
  );
}
