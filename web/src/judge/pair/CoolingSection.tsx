import { fixed, measured, type CoolingRow, type Freedom, type PairJudgement } from '@red-ember/core';
import { useDegrees } from '../../data/useDegrees.ts';
import { Section } from '../../ui/Section.tsx';

const FREEDOM: Record<Freedom, string> = {
  held: 'held',
  'held-by-part': 'held by the part',
  free: 'free',
  'not-recorded': 'not read',
};

const decimals = (row: CoolingRow) => (row.outcome === 'fan' || row.outcome === 'clock' ? 0 : 1);

/** Where the cooling went: what was free to move on both sides, and what was held and so says nothing. */
export function CoolingSection({ judgement }: { judgement: PairJudgement }) {
  const { rows, sentence } = judgement.cooling;
  const degrees = useDegrees();
  if (rows.length < 2) return null;
  const isStep = (row: CoolingRow) => row.outcome === 'temperature';
  const shown = (row: CoolingRow, value: number) => (isStep(row) ? degrees.step(value) : value);
  return (
    <Section title="Where did the cooling go?" hint="only what was free to move can say">
      <p className="mb-3 max-w-[46rem] first-letter:uppercase">{degrees.text(sentence)}</p>
      <table className="plain-table">
        <thead>
          <tr>
            <th>Outcome</th>
            <th className="num !whitespace-normal">{judgement.a.name}</th>
            <th className="num !whitespace-normal">{judgement.b.name}</th>
            <th className="num">difference</th>
            <th>it was</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const struck = row.freedom === 'held-by-part' ? 'line-through decoration-1' : '';
            const tone = row.better === 'b' ? 'text-quench-text' : row.better === 'a' ? 'text-ember-text' : 'text-soft';
            return (
              <tr key={`${row.outcome} ${row.label}`}>
                <td className={`font-semibold ${struck}`}>
                  {row.label}
                  {row.unit ? <span className="font-normal text-soft">, {isStep(row) ? degrees.stepUnit : row.unit}</span> : null}
                </td>
                <td className={`num ${struck}`}>{row.a === null ? '' : fixed(shown(row, row.a), decimals(row))}</td>
                <td className={`num ${struck}`}>{row.b === null ? '' : fixed(shown(row, row.b), decimals(row))}</td>
                <td className={`num whitespace-nowrap ${tone}`}>
                  {row.comparison
                    ? degrees
                        .text(measured(row.comparison.difference.value, row.comparison.budget.expanded, row.unit, { sign: true }))
                        .trim()
                    : ''}
                </td>
                <td>
                  {FREEDOM[row.freedom]}
                  {/* What is free and nothing else needs no second word. */}
                  {row.freedom === 'free' && row.because === 'free to move' ? null : (
                    <span className="text-[0.87rem] text-soft">: {row.because}</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Section>
  );
}
