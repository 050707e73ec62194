import { WRITTEN_FORMATS, type TimeFormat } from '@red-ember/contract';

const DAY_S = 86_400;
const HOUR_S = 3600;
/** Readings further apart than this cannot tell a clock that was changed from a pause. */
const MOST_STEP_S = 600;

/** Formats that show what a clock on the wall shows, which is changed twice a year in many places. */
const ofTheWall = (format: TimeFormat) => format === 'clock' || WRITTEN_FORMATS.includes(format);

/**
 * Follows the times of a log from row to row, so that they go on over midnight where only the time of day is shown, and over a clock
 * that falls back by an hour from one reading to the next and goes on from there. Anything else that goes back stays as it is.
 */
export class RunningClock {
  /** How often it fell back by an hour. */
  setBack = 0;
  private addedS = 0;
  private lastS = NaN;
  private stepS = NaN;

  constructor(private readonly format: TimeFormat) {}

  /** Seconds on the scale of the first reading. @param readS as the row shows it */
  next(readS: number): number {
    let timeS = readS + this.addedS;
    if (this.format === 'clock' && timeS < this.lastS - DAY_S / 2) timeS += this.add(DAY_S);
    if (this.isAnHourOff(timeS + HOUR_S)) {
      timeS += this.add(HOUR_S);
      this.setBack++;
    } else if (this.setBack > 0 && this.isAnHourOff(timeS - HOUR_S)) timeS += this.add(-HOUR_S);
    const stepS = timeS - this.lastS;
    if (!(stepS <= 0)) {
      this.stepS = stepS;
      this.lastS = timeS;
    }
    return timeS;
  }

  /** Whether a reading would stand a step after the last one if its clock were an hour off. */
  private isAnHourOff(wouldBeS: number): boolean {
    const { stepS } = this;
    return ofTheWall(this.format) && stepS <= MOST_STEP_S && Math.abs(wouldBeS - this.lastS - stepS) <= Math.max(2, stepS);
  }

  private add(seconds: number): number {
    this.addedS += seconds;
    return seconds;
  }
}
