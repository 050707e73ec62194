import { ChevronDown, ChevronRight, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type LockBody } from '@red-ember/contract';
import { USUAL_LOCKS } from '@red-ember/study';
import type { Offered } from '../data/benches.ts';
import { Button } from '../ui/Button.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';

const COLUMNS = 'grid items-start gap-x-3 gap-y-1 sm:grid-cols-[11rem_minmax(0,1fr)_4.6rem_5.4rem_7rem_3.4rem]';

/** Units that usually go with a lock, so that they need not be typed. */
const UNITS: Record<string, string> = {
  'Fan duty': '%',
  'Power cap': 'W',
  'Voltage under load': 'V',
  'Core clock': 'MHz',
  'Memory clock': 'MHz',
  'Soak time': 'min',
};

/** The value of one part where it differs; empty means as for all. */
function Overrides({
  lock,
  index,
  body,
  set,
}: {
  lock: LockBody;
  index: number;
  body: StudyDraft['body'];
  set: (part: Partial<LockBody>) => void;
}) {
  return (
    <div className="mb-2 ml-4 grid gap-2 border-l border-rule pl-4 sm:grid-cols-3">
      {body.subjects.map((subject) => {
        const at = lock.overrides.findIndex((override) => override.subjectId === subject.id);
        const rest = lock.overrides.filter((override) => override.subjectId !== subject.id);
        return (
          <TextField
            key={subject.id}
            label={`${lock.name} of ${subject.name}`}
            pointer={at < 0 ? '' : `/locks/${index}/overrides/${at}/value`}
            value={lock.overrides[at]?.value ?? ''}
            hint={at < 0 ? `as for all: ${lock.value}` : undefined}
            onChange={(value) =>
              set({
                overrides:
                  value === ''
                    ? rest
                    : at < 0
                      ? [...lock.overrides, { subjectId: subject.id, value }]
                      : lock.overrides.map((override, i) => (i === at ? { ...override, value } : override)),
              })
            }
          />
        );
      })}
    </div>
  );
}

/** The parts whose value differs, in a line. */
const differing = (lock: LockBody, subjects: StudyDraft['body']['subjects']) =>
  lock.overrides
    .map((override) => `${subjects.find((subject) => subject.id === override.subjectId)?.name ?? 'a part'}: ${override.value}`)
    .join(' · ');

/** Beside a lock: its values part by part, and its end. */
function LockActs({
  lock,
  open,
  onOpen,
  onRemove,
}: {
  lock: LockBody;
  /** Whether its parts are shown; null where there is one part alone. */
  open: boolean | null;
  onOpen: () => void;
  onRemove: () => void;
}) {
  return (
    <span className="flex justify-end pt-1">
      {open !== null ? (
        <button
          type="button"
          className="p-1 text-soft hover:text-ink"
          aria-expanded={open}
          aria-label={`${lock.name} part by part`}
          title="Part by part"
          onClick={onOpen}
        >
          {open ? <ChevronDown size={16} aria-hidden /> : <ChevronRight size={16} aria-hidden />}
        </button>
      ) : null}
      <button type="button" className="p-1 text-soft hover:text-ink" aria-label={`Remove ${lock.name}`} onClick={onRemove}>
        <Trash2 size={15} aria-hidden />
      </button>
    </span>
  );
}

export function LocksSection({ body, change, offered }: Pick<StudyDraft, 'body' | 'change'> & { offered: Offered[] }) {
  const [open, setOpen] = useState<number | null>(null);
  const { locks } = body;
  const several = body.subjects.length > 1;
  const set = (index: number, part: Partial<LockBody>) =>
    change({ locks: locks.map((lock, i) => (i === index ? { ...lock, ...part } : lock)) });
  const add = () => {
    const name = USUAL_LOCKS.find((usual) => !locks.some((lock) => lock.name === usual)) ?? `Lock ${locks.length + 1}`;
    change({ locks: [...locks, { name, value: '', unit: UNITS[name] ?? '', tolerance: null, channel: '', overrides: [] }] });
  };
  return (
    <Section
      title="What is held"
      hint="watched where a channel records it, else confirmed by hand for every run"
      action={
        <Button onClick={add}>
          <Plus size={16} aria-hidden /> Add
        </Button>
      }
    >
      {locks.length === 0 ? (
        <Notice tone="hint">
          Nothing written down yet. Workload, firmware, orientation and case are the usual start; with fans, their duty.
        </Notice>
      ) : (
        <div className={`${COLUMNS} mb-1 hidden text-[0.87rem] text-soft sm:grid`} aria-hidden>
          <span>what</span>
          <span>held at</span>
          <span>unit</span>
          <span>give or take</span>
          <span>watched by</span>
        </div>
      )}
      {locks.map((lock, index) => {
        const at = (field: keyof LockBody) => `/locks/${index}/${field}`;
        return (
          <div key={index} className="mb-2">
            <div className={COLUMNS}>
              <TextField
                hideLabel
                label={`Name of setting ${index + 1}`}
                pointer={at('name')}
                value={lock.name}
                suggestions={USUAL_LOCKS}
                onChange={(name) => set(index, { name, unit: lock.unit || (UNITS[name] ?? '') })}
              />
              <TextField
                hideLabel
                label={`Value of ${lock.name}`}
                pointer={at('value')}
                value={lock.value}
                onChange={(value) => set(index, { value })}
              />
              <TextField
                hideLabel
                label={`Unit of ${lock.name}`}
                pointer={at('unit')}
                value={lock.unit}
                onChange={(unit) => set(index, { unit })}
              />
              <NumberField
                hideLabel
                label={`Tolerance of ${lock.name}`}
                pointer={at('tolerance')}
                value={lock.tolerance}
                onChange={(value) => set(index, { tolerance: Number.isNaN(value) ? null : value })}
              />
              <TextField
                hideLabel
                label={`Channel that watches ${lock.name}`}
                placeholder="by hand"
                pointer={at('channel')}
                value={lock.channel}
                suggestions={offered}
                onChange={(channel) => set(index, { channel })}
              />
              <LockActs
                lock={lock}
                open={several ? open === index : null}
                onOpen={() => setOpen(open === index ? null : index)}
                onRemove={() => change({ locks: locks.filter((_, i) => i !== index) })}
              />
            </div>
            {lock.overrides.length > 0 && open !== index ? (
              <p className="ml-1 mt-0.5 text-[0.87rem] text-soft">{differing(lock, body.subjects)}</p>
            ) : null}
            {open === index ? <Overrides lock={lock} index={index} body={body} set={(part) => set(index, part)} /> : null}
          </div>
        );
      })}
    </Section>
  );
}
