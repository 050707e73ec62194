import { Download } from 'lucide-react';
import { addDays, parseISO } from 'date-fns';
import { iCalendar, type Slot } from '@red-ember/core';
import type { PlanBody, StudyBody, VariantBody } from '@red-ember/contract';
import { useToday } from '../ui/useToday.ts';
import { Button } from '../ui/Button.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { Section } from '../ui/Section.tsx';
import { calendar, mayBeLeft } from './schedule.ts';
import { clockOf, longWeekdayOf, minuteOf, weekdayOf, WEEKDAYS } from '../ui/dates.ts';

const MINUTES: ['lunchMin' | 'mountMin' | 'remountMin' | 'cureMin', string][] = [
  ['lunchMin', 'Lunch takes'],
  ['mountMin', 'To mount anything'],
  ['remountMin', 'To refit the same'],
  ['cureMin', 'Cure or bed-in'],
];
const PARTS: Record<Slot['part'], string> = { hands: 'fit', cure: 'cure or bed-in', run: 'run' };

function saveCalendar(plan: Omit<Parameters<typeof iCalendar>[0], 'madeAt'>) {
  saveFile(iCalendar({ ...plan, madeAt: new Date().toISOString() }), { name: plan.name, ending: 'ics', type: 'text/calendar' });
}

function TimeField({ label, value, onChange }: { label: string; value: number; onChange: (minute: number) => void }) {
  return (
    <label className="text-[0.87rem] text-soft">
      {label}
      <input
        type="time"
        className="field-box mt-1 text-[1rem] text-ink"
        value={clockOf(Math.min(1439, value))}
        onChange={(event) => {
          if (/^\d\d:\d\d/.test(event.target.value)) onChange(minuteOf(event.target.value));
        }}
      />
    </label>
  );
}

function Weekdays({ value, onChange }: { value: number[]; onChange: (days: number[]) => void }) {
  return (
    <fieldset className="sm:col-span-2">
      <legend className="mb-1 text-[0.87rem] text-soft">Working days</legend>
      <div className="flex flex-wrap gap-x-3">
        {WEEKDAYS.map((name, day) => (
          <label key={name} className="flex items-center gap-1.5 text-[0.93rem]">
            <input
              type="checkbox"
              checked={value.includes(day)}
              onChange={(event) => onChange(event.target.checked ? [...value, day].sort() : value.filter((entry) => entry !== day))}
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** The order laid into working hours: day by day, when it ends, and what slips when a run is repeated. */
export function CalendarSection({
  planId,
  body,
  reading,
  order,
  lengthMin,
  title,
  setPlan,
}: {
  planId: string;
  body: StudyBody;
  /** The same, with what is half typed taken for nothing. */
  reading: StudyBody;
  order: VariantBody[];
  lengthMin: number;
  title: string;
  setPlan: (part: Partial<PlanBody>) => void;
}) {
  const today = useToday();
  const { plan } = body;
  const firstDay = plan.startOn || today;
  const made = order.length > 0 ? calendar(reading, order, lengthMin, firstDay) : null;
  const when = (minute: number) => addDays(parseISO(firstDay), Math.floor(minute / 1440));
  const at = (minute: number) => `${weekdayOf(when(minute))} ${clockOf(minute)}`;
  const nameOf = (slot: Slot) => order[Number(slot.id)]?.name ?? '';
  const titleOf = (slot: Slot) => `${title}: ${PARTS[slot.part]} ${nameOf(slot)} (run ${Number(slot.id) + 1})`;
  const slots = made && 'slots' in made ? made.slots : [];
  const days = [...new Set(slots.map((slot) => Math.floor(slot.startMin / 1440)))];
  const finish = slots.at(-1)?.endMin ?? null;
  // The last run once more at the end: what a spoiled run costs.
  const again = order.length > 0 ? calendar(reading, [...order, order.at(-1)!], lengthMin, firstDay) : null;
  const slipped = again && 'slots' in again ? again.slots.at(-1)!.endMin : null;
  return (
    <Section
      title="Calendar"
      hint={finish === null ? undefined : `ends ${at(finish)}${slipped === null ? '' : `; one run repeated: ${at(slipped)}`}`}
      action={
        <Button disabled={slots.length === 0} onClick={() => saveCalendar({ planId, name: title, firstDay, slots, titleOf })}>
          <Download size={15} aria-hidden /> Calendar file
        </Button>
      }
    >
      <div className="mb-4 grid items-start gap-x-4 gap-y-3 sm:grid-cols-5">
        <TextField type="date" label="First day" pointer="/plan/startOn" value={firstDay} onChange={(startOn) => setPlan({ startOn })} />
        <TimeField label="Day begins" value={plan.fromMin} onChange={(fromMin) => setPlan({ fromMin })} />
        <TimeField label="Day ends" value={plan.toMin} onChange={(toMin) => setPlan({ toMin })} />
        <TimeField label="Lunch at" value={plan.lunchFromMin} onChange={(lunchFromMin) => setPlan({ lunchFromMin })} />
        {MINUTES.map(([field, label]) => (
          <NumberField
            key={field}
            label={label}
            unit="min"
            pointer={`/plan/${field}`}
            value={plan[field]}
            onChange={(value) => setPlan({ [field]: value })}
          />
        ))}
        <Weekdays value={plan.weekdays} onChange={(weekdays) => setPlan({ weekdays })} />
        <label className="flex items-center gap-2 text-[0.93rem] sm:col-span-5">
          <input
            type="checkbox"
            checked={plan.unattended && mayBeLeft(body)}
            disabled={!mayBeLeft(body)}
            onChange={(event) => setPlan({ unattended: event.target.checked })}
          />
          {mayBeLeft(body)
            ? 'Runs may go on without anybody: every spot has its cut-out armed when a run starts'
            : body.spots.length === 0
              ? 'Somebody stays with every run: no spot has a cut-out yet'
              : 'Somebody stays with every run: some spots are read by hand'}
        </label>
      </div>
      {made && 'sentence' in made ? <Notice tone="error">{made.sentence}</Notice> : null}
      <ol className="grid gap-x-8 sm:grid-cols-2" aria-label="Days of the plan">
        {days.map((day) => (
          <li key={day} className="mb-3">
            <p className="border-b border-ink font-semibold">{longWeekdayOf(addDays(parseISO(firstDay), day))}</p>
            {slots
              .filter((slot) => Math.floor(slot.startMin / 1440) === day)
              .map((slot) => (
                <p
                  key={`${slot.id}/${slot.part}`}
                  className="grid grid-cols-[6.6rem_minmax(0,1fr)] gap-2 border-b border-rule py-0.5 text-[0.93rem]"
                >
                  <span className="text-soft">
                    {clockOf(slot.startMin)}–{clockOf(slot.endMin)}
                  </span>
                  <span className={`truncate ${slot.part === 'run' ? 'font-semibold' : 'text-soft'}`}>
                    {slot.part === 'run' ? nameOf(slot) : `${PARTS[slot.part]} ${nameOf(slot)}`}
                  </span>
                </p>
              ))}
          </li>
        ))}
      </ol>
    </Section>
  );
}
