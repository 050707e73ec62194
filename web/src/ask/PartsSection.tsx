import { Plus, Trash2 } from 'lucide-react';
import type { DriveTemperaturesBody, SubjectBody } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';

const DRIVE_FIELDS: [keyof DriveTemperaturesBody, string, string][] = [
  ['warningC', 'Warning', 'Composite warning threshold'],
  ['criticalC', 'Critical', 'Composite critical threshold'],
  ['managed1C', 'Managed 1', 'Light throttling; empty: off'],
  ['managed2C', 'Managed 2', 'Heavy throttling; empty: off'],
];
const mayBeOff = (field: keyof DriveTemperaturesBody) => field.startsWith('managed');

/** What a drive publishes about its own temperatures, as the open NVM Express specification names them. */
function DriveTemperatures({
  subject,
  index,
  change,
}: {
  subject: SubjectBody;
  index: number;
  change: (part: Partial<SubjectBody>) => void;
}) {
  const { drive } = subject;
  if (!drive)
    return (
      <Button
        look="quiet"
        className="!px-0 text-[0.93rem]"
        onClick={() => change({ drive: { warningC: 82, criticalC: 88, managed1C: null, managed2C: null } })}
      >
        <Plus size={14} aria-hidden /> Temperatures the drive publishes
      </Button>
    );
  return (
    <fieldset className="grid gap-x-4 gap-y-2 sm:grid-cols-4">
      <legend className="float-left mb-1 flex w-full items-baseline gap-3 text-[0.87rem] text-soft sm:col-span-4">
        Published by the drive itself
        <button type="button" className="underline hover:text-ink" onClick={() => change({ drive: null })}>
          leave out
        </button>
      </legend>
      {DRIVE_FIELDS.map(([field, label, hint]) => (
        <NumberField
          key={field}
          label={label}
          unit="°C"
          hint={hint}
          pointer={`/subjects/${index}/drive/${field}`}
          value={drive[field]}
          onChange={(value) => change({ drive: { ...drive, [field]: mayBeOff(field) && Number.isNaN(value) ? null : value } })}
        />
      ))}
    </fieldset>
  );
}

/** The parts under test: one for a cooler comparison, several where boards or drives are compared. */
export function PartsSection({ body, change, used }: Pick<StudyDraft, 'body' | 'change'> & { used: string[] }) {
  const set = (index: number, part: Partial<SubjectBody>) =>
    change({ subjects: body.subjects.map((subject, i) => (i === index ? { ...subject, ...part } : subject)) });
  const add = () => {
    const last = body.subjects.at(-1)!;
    const id = crypto.randomUUID();
    change({ subjects: [...body.subjects, { id, name: `Part ${body.subjects.length + 1}`, details: '', drive: last.drive, map: null }] });
  };
  const remove = (id: string) =>
    change({
      subjects: body.subjects.filter((subject) => subject.id !== id),
      locks: body.locks.map((lock) => ({ ...lock, overrides: lock.overrides.filter((override) => override.subjectId !== id) })),
    });
  return (
    <Section
      title={body.subjects.length === 1 ? 'The part under test' : `${body.subjects.length} parts under test`}
      hint={body.subjects.length === 1 ? undefined : 'each variant is put on one of them'}
      action={
        <Button onClick={add}>
          <Plus size={16} aria-hidden /> Add a part
        </Button>
      }
    >
      {body.subjects.map((subject, index) => {
        const inUse = used.includes(subject.id);
        return (
          <div
            key={subject.id}
            className="mb-3 grid gap-x-4 gap-y-2 border-t border-rule pt-3 md:grid-cols-[minmax(0,1fr)_minmax(0,2fr)_2rem]"
          >
            <TextField
              label={index === 0 ? 'Part under test' : `Part ${index + 1}`}
              pointer={`/subjects/${index}/name`}
              value={subject.name}
              onChange={(name) => set(index, { name })}
            />
            <TextField
              label={index === 0 ? 'Which one exactly' : `Which ${subject.name} exactly`}
              pointer={`/subjects/${index}/details`}
              value={subject.details}
              onChange={(details) => set(index, { details })}
            />
            <div className="flex items-end pb-1">
              {body.subjects.length > 1 ? (
                <Button
                  look="quiet"
                  className="!px-1"
                  disabled={inUse}
                  title={inUse ? 'A variant is put on it: change that at Plan first' : undefined}
                  aria-label={`Remove ${subject.name}`}
                  onClick={() => remove(subject.id)}
                >
                  <Trash2 size={16} aria-hidden />
                </Button>
              ) : null}
            </div>
            {familyOf(body.family).publishesTemperatures ? (
              <div className="md:col-span-3">
                <DriveTemperatures subject={subject} index={index} change={(part) => set(index, part)} />
              </div>
            ) : null}
          </div>
        );
      })}
    </Section>
  );
}
