import { useState } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { factorView, fixed, InsufficientDataError, measured, signed, type FactorView, midSentence } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { Term } from '../../words/Term.tsx';
import { LineUpSheet } from './LineUpSheet.tsx';
import { Pick } from '../../ui/Pick.tsx';
import { IntervalPlot } from './IntervalPlot.tsx';
import { useLineUp, type LineUpView } from './useLineUp.ts';

function viewOf(study: Study, view: LineUpView): FactorView | string {
  try {
    const impossible = study.impossible.map(({ levels, reason }) => ({
      levels: Object.fromEntries(levels.map(({ factor, level }) => [factor, level])),
      reason,
    }));
    return factorView(view.data!.field, study.factors, view.key, impossible);
  } catch (error) {
    if (error instanceof InsufficientDataError || error instanceof RangeError) return error.message;
    throw error;
  }
}

const termName = (term: readonly string[]) => term.join(' × ');

function headingOf(made: FactorView, what: string, unit: string, show: (value: number) => number): string {
  const [largest] = [...made.effects].sort((p, q) => Math.abs(q.value) - Math.abs(p.value));
  if (!largest) return 'No effect can be credited to one factor alone.';
  const by =
    largest.halfWidth === null
      ? signed(show(largest.value), 1)
      : measured(show(largest.value), show(largest.halfWidth), '', { sign: true }).trim();
  if (!made.called) return `${termName(largest.term)} reads most on ${what}, ${by} ${unit}: not called.`;
  const told = largest.told === false ? ' That is not told from nothing.' : '';
  return `${termName(largest.term)} moves ${what} most: ${by} ${unit}.${told}`;
}

const DASHES = ['', '6 3', '2 3', '9 3 2 3'];
const COLOURS = ['var(--ink)', 'var(--ember)', 'var(--quench)', 'var(--ochre)'];

/** Cell means over one factor, a line for each level of another: lines that are not parallel interact. */
function Interaction({ made, study, view }: { made: FactorView; study: Study; view: LineUpView }) {
  const names = study.factors.map((factor) => factor.name).filter((name) => new Set(made.cells.map((cell) => cell.levels[name])).size > 1);
  const strongest = [...made.effects].filter((effect) => effect.term.length === 2).sort((p, q) => Math.abs(q.value) - Math.abs(p.value))[0];
  const [across, setAcross] = useState(strongest?.term[0] ?? names[0] ?? '');
  const [lines, setLines] = useState(strongest?.term[1] ?? names[1] ?? '');
  if (names.length < 2) return null;
  const levelsOf = (name: string) =>
    (study.factors.find((factor) => factor.name === name)?.levels ?? []).filter((level) =>
      made.cells.some((cell) => cell.levels[name] === level),
    );
  const meanOf = (p: string, q: string) => {
    const cells = made.cells.filter((cell) => cell.levels[across] === p && cell.levels[lines] === q);
    return cells.length === 0 ? null : view.show(cells.reduce((sum, cell) => sum + cell.mean / cells.length, 0));
  };
  const rows = levelsOf(across).map((level) => ({
    level,
    ...Object.fromEntries(levelsOf(lines).map((other) => [other, meanOf(level, other)])),
  }));
  const options = names.map((name) => ({ value: name, label: name }));
  return (
    <Section
      title="Interaction"
      action={
        <span className="flex flex-wrap gap-4">
          <Pick label="Across" value={across} options={options.filter(({ value }) => value !== lines)} onChange={setAcross} />
          <Pick label="Lines" value={lines} options={options.filter(({ value }) => value !== across)} onChange={setLines} />
        </span>
      }
    >
      <figure aria-label={`Means over ${across}, a line for each level of ${lines}`} className="grid grid-cols-[minmax(0,1fr)_12rem] gap-4">
        <div style={{ height: 220 }}>
          <ResponsiveContainer width="100%" height="100%">
            <LineChart data={rows} margin={{ top: 8, right: 24, bottom: 2, left: 0 }} accessibilityLayer={false}>
              <CartesianGrid vertical={false} stroke="var(--rule)" />
              <XAxis dataKey="level" stroke="var(--stone)" tickLine={false} padding={{ left: 40, right: 40 }} />
              <YAxis width={48} axisLine={false} tickLine={false} domain={['auto', 'auto']} />
              {levelsOf(lines).map((level, i) => (
                <Line
                  key={level}
                  dataKey={level}
                  stroke={COLOURS[i % COLOURS.length]!}
                  strokeWidth={2}
                  dot={{ r: 4, strokeDasharray: '0' }}
                  isAnimationActive={false}
                  connectNulls={false}
                  {...(DASHES[i % DASHES.length] ? { strokeDasharray: DASHES[i % DASHES.length]! } : {})}
                />
              ))}
            </LineChart>
          </ResponsiveContainer>
        </div>
        <ul className="grid content-center gap-2 text-[0.93rem]">
          {levelsOf(lines).map((level, i) => (
            <li key={level} className="flex items-center gap-2">
              <svg width="34" height="8" aria-hidden>
                <line
                  x1="0"
                  x2="34"
                  y1="4"
                  y2="4"
                  stroke={COLOURS[i % COLOURS.length]}
                  strokeWidth="2"
                  strokeDasharray={DASHES[i % DASHES.length]}
                />
              </svg>
              {level}
            </li>
          ))}
          <li className="text-soft">Mean, {view.unit}. Lines that run alike do not interact.</li>
        </ul>
      </figure>
    </Section>
  );
}

function Variance({ rows }: Pick<FactorView, 'rows'>) {
  return (
    <Section title="Analysis of variance" hint="each term beyond all others">
      <table className="plain-table">
        <thead>
          <tr>
            <th>Term</th>
            <th className="num">sum of squares</th>
            <th className="num">degrees of freedom</th>
            <th className="num">F</th>
            <th className="num">p</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.term}>
              <td>{row.term.replaceAll('*', ' × ')}</td>
              <td className="num">{fixed(row.sumSq, 2)}</td>
              <td className="num">{row.dof}</td>
              <td className="num">{row.f === null ? '' : fixed(row.f, 1)}</td>
              <td className="num">{row.p === null ? '' : row.p < 0.001 ? 'under 0.001' : fixed(row.p, 3)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

/** Effects of the study's factors with their doubt, the interaction drawn, and what cannot be credited. */
export function FactorsPage() {
  const study = useStudy();
  const view = useLineUp(study);
  const result = view.data && !view.data.refusal && study.factors.length > 0 ? viewOf(study, view) : null;
  const made = result !== null && typeof result !== 'string' ? result : null;
  return (
    <LineUpSheet
      study={study}
      view={view}
      page="Factors"
      heading={
        made
          ? headingOf(made, midSentence(view.name), view.stepUnit, view.showStep)
          : study.factors.length === 0
            ? 'This study has no factors.'
            : typeof result === 'string'
              ? `No effects yet: ${result}.`
              : 'Factors'
      }
      margin={
        made ? (
          <MarginGroup title="What may be said">
            {made.refused.map((entry) => (
              <Note key={entry.sentence} tone="heat">
                {entry.sentence}
              </Note>
            ))}
            {made.notes.map((note) => (
              <Note key={note} tone="caution">
                {note}
              </Note>
            ))}
            {made.holes.map((levels) => (
              <Note key={JSON.stringify(levels)}>No run: {Object.values(levels).join(', ')}.</Note>
            ))}
            <Note>
              {made.fitted
                ? 'An effect is the second level against the first with every other factor held, by least squares.'
                : 'An effect is the mean at the second level less the mean at the first, over all runs.'}
            </Note>
            {made.effects.some(({ halfWidth }) => halfWidth === null) ? (
              <Note>
                Nothing was repeated, so effects are told from chance by <Term word="half-normal">half-normal</Term> scores.
              </Note>
            ) : null}
          </MarginGroup>
        ) : null
      }
    >
      {study.factors.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to={`/studies/${study.id}/plan/factors`}>To Factors at Plan</ButtonLink>}>
          Where variants are levels of factors, what each of them does can be told apart here.
        </Notice>
      ) : made ? (
        <>
          <Section title={`Effects on ${midSentence(view.name)}`} hint={`from ${made.runs} runs`}>
            <IntervalPlot
              label={`Effects on ${view.name}`}
              unit={view.stepUnit}
              zero
              rows={[...made.effects]
                .sort((p, q) => Math.abs(q.value) - Math.abs(p.value))
                .map((effect) => ({
                  id: termName(effect.term),
                  name: termName(effect.term),
                  value: view.showStep(effect.value),
                  halfWidth: effect.halfWidth === null ? null : view.showStep(effect.halfWidth),
                  hint:
                    effect.term.length === 1
                      ? (study.factors.find((factor) => factor.name === effect.term[0])?.levels ?? []).join(' → ')
                      : 'interaction',
                  right:
                    effect.halfWidth === null
                      ? `${signed(view.showStep(effect.value), 1)} ${view.stepUnit}, half-normal ${fixed(effect.halfNormal ?? 0, 2)}`
                      : `${measured(view.showStep(effect.value), view.showStep(effect.halfWidth), view.stepUnit, { sign: true })}${effect.told ? '' : ', not told'}`,
                  tone: effect.told === false ? 'stone' : effect.value < 0 ? 'quench' : 'ember',
                }))}
            />
          </Section>
          <Interaction key={study.id} made={made} study={study} view={view} />
          <Variance rows={made.rows} />
        </>
      ) : (
        <Notice tone="hint">Effects appear as soon as a factor has changed between runs.</Notice>
      )}
    </LineUpSheet>
  );
}
