import { Plus, Trash2 } from 'lucide-react';
import { lastingName, type OwnFigureBody, type Study, type StudyBody } from '@red-ember/contract';
import { blankOwnFigure, ownFiguresOf } from '@red-ember/study';
import { useRigsQuery, useRunsQuery } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { withoutOwnFigure } from './edits.ts';

const BETTER: { value: OwnFigureBody['better']; label: string }[] = [
  { value: 'high', label: 'more is better' },
  { value: 'low', label: 'less is better' },
  { value: 'neither', label: 'neither' },
];

/** Channels that could carry a figure: those of the bench, and those that a run of this study recorded. */
function useChannels(studyId: string): { value: string; label: string }[] {
  const { data: rigs = [] } = useRigsQuery();
  const { data: runs = [] } = useRunsQuery(studyId);
  const labels = new Map<string, string>(
    rigs.flatMap((rig) => rig.channels.map(({ key, label, unit }) => [key, `${label}, ${unit}`] as const)),
  );
  for (const channel of runs.flatMap((run) => run.channels)) {
    const name = lastingName(channel);
    if (channel.role === 'beside' && !labels.has(name)) labels.set(name, channel.unit ? `${name}, ${channel.unit}` : name);
  }
  return [...labels].map(([value, label]) => ({ value, label: `by channel ${label}` }));
}

function FigureEditor({
  figure,
  index,
  channels,
  set,
  remove,
}: {
  figure: OwnFigureBody;
  index: number;
  channels: { value: string; label: string }[];
  set: (part: Partial<OwnFigureBody>) => void;
  remove: () => void;
}) {
  const at = (field: keyof OwnFigureBody) => `/figures/${index}/${field}`;
  const known = figure.channel === '' || channels.some(({ value }) => value === figure.channel);
  return (
    <fieldset className="mb-3 grid gap-x-4 gap-y-2 border-t border-rule pt-3 md:grid-cols-12">
      <legend className="sr-only">Figure {index + 1}</legend>
      <TextField
        className="md:col-span-4"
        label="What is noted"
        pointer={at('name')}
        value={figure.name}
        onChange={(name) => set({ name })}
      />
      <TextField className="md:col-span-2" label="Unit" pointer={at('unit')} value={figure.unit} onChange={(unit) => set({ unit })} />
      <ChoiceField
        className="md:col-span-3"
        label="Which way"
        pointer={at('better')}
        value={figure.better}
        onChange={(better) => set({ better })}
        options={BETTER}
      />
      <NumberField
        className="md:col-span-2"
        label="Matters from"
        unit={figure.unit}
        pointer={at('practical')}
        value={figure.practical}
        onChange={(practical) => set({ practical })}
      />
      <div className="flex items-end justify-end pb-1 md:col-span-1">
        <Button look="quiet" className="!px-1" aria-label={`Remove ${figure.name || `figure ${index + 1}`}`} onClick={remove}>
          <Trash2 size={16} aria-hidden />
        </Button>
      </div>
      <TextField
        className="md:col-span-4"
        label="Read by"
        hint="a program, a meter, your eyes"
        pointer={at('instrument')}
        value={figure.instrument}
        onChange={(instrument) => set({ instrument })}
      />
      <NumberField
        className="md:col-span-2"
        label="Off by at most"
        unit={figure.unit}
        pointer={at('doubt')}
        value={figure.doubt}
        onChange={(doubt) => set({ doubt })}
      />
      <ChoiceField
        className="md:col-span-5"
        label="How it comes in"
        pointer={at('channel')}
        value={figure.channel}
        onChange={(channel) => set({ channel })}
        options={[
          { value: '', label: 'typed, with the record of each run' },
          ...channels,
          ...(known ? [] : [{ value: figure.channel, label: `by channel ${figure.channel}, which is not there now` }]),
        ]}
      />
    </fieldset>
  );
}

/** What testers note beside temperature and no channel of a known kind carries: named once, then judged like any other outcome. */
export function OwnFiguresSection({ body, change, study }: Pick<StudyDraft, 'body' | 'change'> & { study: Study }) {
  const figures = ownFiguresOf(body);
  const channels = useChannels(study.id);
  const put = (figuresNow: StudyBody['figures']) => change({ figures: figuresNow });
  return (
    <Section
      title="Figures of your own"
      hint={
        figures.length === 0
          ? 'A score, frames a second, minutes of a render, watts off a meter, a rating from 1 to 5: named here, typed with each run.'
          : 'compared, ranked and weighed like noise or work done'
      }
      action={
        <Button onClick={() => put([...figures, blankOwnFigure(crypto.randomUUID())])}>
          <Plus size={16} aria-hidden /> Name a figure
        </Button>
      }
    >
      {figures.map((figure, index) => (
        <FigureEditor
          key={figure.id}
          figure={figure}
          index={index}
          channels={channels}
          set={(part) => put(figures.map((old, i) => (i === index ? { ...old, ...part } : old)))}
          remove={() => change(withoutOwnFigure(body, figure.id, study.predictionLockedAt !== null))}
        />
      ))}
    </Section>
  );
}
