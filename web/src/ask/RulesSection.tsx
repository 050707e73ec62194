import { type HouseRulesBody } from '@red-ember/contract';
import { HOUSE_RULES, type School } from '@red-ember/study';
import { ChoiceField, NumberField } from '../ui/Field.tsx';
import { Term } from '../words/Term.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';

type Rule = keyof typeof HOUSE_RULES;

/** The four that decide most results are always open; the rest are settled once and seldom looked at. */
const MAIN: Rule[] = ['basis', 'figure', 'fans', 'load'];
const REST: Rule[] = ['place', 'sensorOfRecord', 'duration', 'stress', 'ladder', 'paste'];

export function RulesSection({ body, change }: Pick<StudyDraft, 'body' | 'change'>) {
  const { rules } = body;
  const set = (part: Partial<HouseRulesBody>) => change({ rules: { ...rules, ...part } });
  const field = (rule: Rule) => {
    const { question, schools } = HOUSE_RULES[rule] as { question: string; schools: School[] };
    return (
      <ChoiceField
        key={rule}
        label={question}
        pointer={`/rules/${rule}`}
        value={rules[rule] as string}
        onChange={(value) => set({ [rule]: value })}
        options={schools}
        hint={schools.find((school) => school.value === rules[rule])?.why}
      />
    );
  };
  return (
    <Section title="House rules" hint="Chosen once for the study; every figure carries them.">
      <div className="grid gap-x-4 gap-y-3 md:grid-cols-2">{MAIN.map(field)}</div>
      <details className="my-4">
        <summary className="text-soft hover:text-ink">Place, sensor of record, length, stress, ladder and paste</summary>
        <p className="mt-2 text-[0.87rem] text-soft">
          What is a <Term word="sensor of record" />?
        </p>
        <div className="mt-3 grid gap-x-4 gap-y-3 md:grid-cols-2">{REST.map(field)}</div>
      </details>
      <div className="grid gap-4 md:grid-cols-4">
        <NumberField
          label="A difference matters from"
          unit="K"
          pointer="/rules/practicalK"
          value={rules.practicalK}
          onChange={(practicalK) => set({ practicalK })}
        />
        <NumberField
          label="Intervals hold the truth in"
          unit="%"
          pointer="/rules/coverage"
          value={Math.round(rules.coverage * 1000) / 10}
          onChange={(percent) => set({ coverage: percent / 100 })}
        />
      </div>
      <p className="mt-2 text-[0.87rem] text-soft">
        What is <Term word="coverage">such an interval</Term>, and what does <Term word="equivalent" /> mean?
      </p>
    </Section>
  );
}
