import { InsufficientDataError, requireFinite, requireNotNegative } from '../errors.ts';

/** Hours in which somebody is there. Minutes since midnight, local time. */
export interface WorkingHours {
  fromMin: number;
  toMin: number;
  lunchFromMin: number;
  lunchMin: number;
  /** 0 Sunday to 6 Saturday. */
  weekdays: readonly number[];
}

/** One run of a plan: hands on the bench, then waiting for cure or bed-in, then the run itself. Minutes. */
export interface PlannedTask {
  id: string;
  handsMin: number;
  cureMin: number;
  runMin: number;
  /** The run needs nobody, because a cut-out is armed. */
  unattended: boolean;
}

export interface Slot {
  id: string;
  part: 'hands' | 'cure' | 'run';
  /** Minutes since midnight of the first day. */
  startMin: number;
  endMin: number;
}

const DAY = 1440;
/** A plan that has not ended after this many days is no plan. */
const MOST_DAYS = 366;

interface Stretch {
  from: number;
  to: number;
}

/** Stretches of a day in which somebody is there, in minutes since midnight of the first day. */
function stretchesOf(day: number, weekday: number, hours: WorkingHours): Stretch[] {
  if (!hours.weekdays.includes((weekday + day) % 7)) return [];
  const at = day * DAY;
  const lunchTo = hours.lunchFromMin + hours.lunchMin;
  const whole = { from: at + hours.fromMin, to: at + hours.toMin };
  if (hours.lunchMin === 0 || lunchTo <= hours.fromMin || hours.lunchFromMin >= hours.toMin) return [whole];
  return [
    { from: whole.from, to: at + hours.lunchFromMin },
    { from: at + lunchTo, to: whole.to },
  ].filter((stretch) => stretch.to > stretch.from);
}

function check(hours: WorkingHours): void {
  for (const [name, value] of Object.entries({
    from: hours.fromMin,
    to: hours.toMin,
    lunchFrom: hours.lunchFromMin,
    lunch: hours.lunchMin,
  }))
    requireNotNegative(value, name);
  if (hours.toMin <= hours.fromMin || hours.toMin > DAY) throw new RangeError('the working day must end after it begins, within the day');
  if (hours.weekdays.length === 0) throw new RangeError('there is no working day in the week');
}

/**
 * Lays runs into working hours, in their order, each as early as it can be.
 *
 * Hands on the bench need somebody, in one piece: no refit is left half-done over lunch or night. Cure and bed-in need nobody. A
 * run needs somebody from start to end unless a cut-out is armed; then it only has to be started in working hours.
 *
 * @param tasks in order of running
 * @param weekday of the first day, 0 Sunday to 6 Saturday
 * @returns slots in local minutes since midnight of the first day; parts of no length are left out
 * @throws InsufficientDataError no tasks
 * @throws RangeError negative minutes, a part that is longer than any working stretch, a plan longer than a year
 */
export function layOut(tasks: readonly PlannedTask[], hours: WorkingHours, weekday: number): Slot[] {
  check(hours);
  requireFinite(weekday, 'weekday');
  if (tasks.length === 0) throw new InsufficientDataError('there are no runs to lay out');
  const longest = Math.max(
    ...[...new Set(hours.weekdays)].flatMap((day) => stretchesOf(0, day, hours)).map((stretch) => stretch.to - stretch.from),
  );
  /** First time from `from` on at which somebody is there for `minutes` in one piece. */
  const attended = (from: number, minutes: number, what: string): number => {
    if (minutes > longest)
      throw new RangeError(
        `${what} takes ${Math.round(minutes)} min, longer than any stretch of the working day (${Math.round(longest)} min)`,
      );
    for (let day = Math.floor(from / DAY); day < MOST_DAYS; day++)
      for (const stretch of stretchesOf(day, weekday, hours)) {
        const start = Math.max(from, stretch.from);
        if (start + minutes <= stretch.to && start < stretch.to) return start;
      }
    throw new RangeError('the plan does not end within a year');
  };
  const slots: Slot[] = [];
  let free = 0;
  for (const task of tasks) {
    requireNotNegative(task.handsMin, `${task.id}: handsMin`);
    requireNotNegative(task.cureMin, `${task.id}: cureMin`);
    requireNotNegative(task.runMin, `${task.id}: runMin`);
    const put = (part: Slot['part'], startMin: number, minutes: number) => {
      if (minutes > 0) slots.push({ id: task.id, part, startMin, endMin: startMin + minutes });
      free = startMin + minutes;
    };
    if (task.handsMin > 0) put('hands', attended(free, task.handsMin, 'a refit'), task.handsMin);
    put('cure', free, task.cureMin);
    put('run', task.unattended ? attended(free, 0, 'a start') : attended(free, task.runMin, 'an attended run'), task.runMin);
  }
  return slots;
}
