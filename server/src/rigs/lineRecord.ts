import type { LineEntry } from '@red-ember/core';

/** Entries that wait to be written; beyond this many the oldest are lost, which only a record that cannot be written ever brings about. */
const MOST_WAITING = 500;

/**
 * What goes over the line of one run, as it changes. Entries wait until something of the run is written anyway: nothing here may hold
 * up the watch, or fail for a full disk.
 */
export class LineRecord {
  private waiting: LineEntry[] = [];
  private commanded: number | null = null;
  private reported: number | null = null;
  private again: { entry: LineEntry; toSeq: number } | null = null;

  constructor(private readonly now: () => Date) {}

  command(percent: number, atS: number): void {
    if (percent === this.commanded) return;
    this.commanded = percent;
    this.add({ kind: 'commanded', percent }, atS);
  }

  report(percent: number, atS: number): void {
    if (percent === this.reported) return;
    this.reported = percent;
    this.add({ kind: 'reported', percent }, atS);
  }

  back(atS: number): void {
    this.add({ kind: 'back' }, atS);
  }

  /** A message of samples. @param lastSeq the newest that was kept before it */
  heard(seq: number, lastSeq: number, atS: number): void {
    if (seq <= lastSeq) {
      if (this.again && seq === this.again.toSeq + 1) this.again.entry.toSeq = this.again.toSeq = seq;
      else this.again = { entry: this.add({ kind: 'again', fromSeq: seq, toSeq: seq }, atS), toSeq: seq };
    } else {
      this.again = null;
      if (seq > lastSeq + 1) this.add({ kind: 'missing', fromSeq: lastSeq + 1, toSeq: seq - 1 }, atS);
    }
  }

  /** What waits to be written. */
  get pending(): readonly LineEntry[] {
    return this.waiting;
  }

  /** So many of what waited are written. */
  written(count: number): void {
    if (count === 0) return;
    this.waiting = this.waiting.slice(count);
    this.again = null;
  }

  private add(what: Pick<LineEntry, 'kind'> & Partial<LineEntry>, atS: number): LineEntry {
    const entry: LineEntry = { atS, at: this.now().toISOString(), percent: null, fromSeq: null, toSeq: null, ...what };
    this.waiting = [...this.waiting.slice(1 - MOST_WAITING), entry];
    return entry;
  }
}
