import { useSyncExternalStore } from 'react';
import type { LiveSamples, Trace } from '@red-ember/contract';

/** What a chart draws of one channel: views, valid until the next draw. */
export interface LiveChannel {
  t: Float64Array;
  y: Float64Array;
}

/** Points that are held of one channel before its past is thinned, and how many of the newest keep every one. */
const MOST_POINTS = 2048;
const RECENT = 512;

/** A channel as it grows: what is new in full, what is older thinned with its peaks, never more than can be drawn. */
class Growing {
  private t = new Float64Array(MOST_POINTS);
  private y = new Float64Array(MOST_POINTS);
  private n = 0;

  get view(): LiveChannel {
    return { t: this.t.subarray(0, this.n), y: this.y.subarray(0, this.n) };
  }

  /** Samples later than what is there; NaN for one that is missing. */
  add(t: readonly number[], y: readonly (number | null)[]): void {
    for (let i = 0; i < t.length; i++) {
      if (this.n > 0 && t[i]! <= this.t[this.n - 1]!) continue;
      if (this.n === MOST_POINTS) this.thin();
      this.t[this.n] = t[i]!;
      this.y[this.n++] = y[i] ?? NaN;
    }
  }

  /** Of every four older points the lowest and the highest stay, or the gap that is among them. */
  private thin(): void {
    const old = this.n - RECENT;
    let kept = 0;
    const keep = (i: number) => {
      this.t[kept] = this.t[i]!;
      this.y[kept++] = this.y[i]!;
    };
    for (let from = 0; from < old; from += 4) {
      let [low, high] = [from, from];
      for (let i = from; i < Math.min(old, from + 4); i++) {
        // A gap is neither low nor high, and must not be lost.
        if (Number.isNaN(this.y[i]!)) high = i;
        else if (this.y[i]! < this.y[low]!) low = i;
        else if (this.y[i]! > this.y[high]!) high = i;
      }
      keep(Math.min(low, high));
      if (low !== high) keep(Math.max(low, high));
    }
    for (let i = old; i < this.n; i++) keep(i);
    this.n = kept;
  }
}

/** A draw may take this share of the time. */
const SHARE = 0.15;
/** Nothing is drawn again sooner, ms: samples come four times a second. */
const LEAST_MS = 240;

/**
 * The traces of the run that is followed, outside the store: they grow many times a second, and nothing but the chart looks at them.
 * Whoever draws them is told at most once a frame, and less often the longer a draw takes, so that the page stays at hand.
 */
export class LiveTraces {
  private channels = new Map<string, Growing>();
  private drawn: Record<string, LiveChannel> = {};
  private readonly listeners = new Set<() => void>();
  private asked: ReturnType<typeof setTimeout> | null = null;
  private freeAtMs = 0;
  runId: string | null = null;

  /** Begins with another run, or with none. */
  open(runId: string | null): void {
    this.runId = runId;
    this.channels = new Map();
    this.draw();
  }

  /** What was recorded so far. Samples that came by event while it was fetched are newer than it. */
  traceArrived({ runId, series }: Pick<Trace, 'runId' | 'series'>): void {
    if (runId !== this.runId) return;
    for (const { key, t, y } of series) {
      const live = this.channels.get(key)?.view;
      const channel = new Growing();
      channel.add(t, y);
      if (live) channel.add([...live.t], [...live.y]);
      this.channels.set(key, channel);
    }
    this.ask();
  }

  samplesArrived({ runId, series }: LiveSamples): void {
    if (runId !== this.runId) return;
    for (const { key, t, y } of series) {
      let channel = this.channels.get(key);
      if (!channel) this.channels.set(key, (channel = new Growing()));
      channel.add(t, y);
    }
    this.ask();
  }

  /** What is drawn now; the same object until something else is. */
  readonly now = (): Record<string, LiveChannel> => this.drawn;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private ask(): void {
    if (this.asked !== null) return;
    const draw = () => {
      this.asked = null;
      this.draw();
    };
    this.asked = setTimeout(draw, Math.max(0, this.freeAtMs - performance.now()));
  }

  private draw(): void {
    if (this.asked !== null) clearTimeout(this.asked);
    this.asked = null;
    const begun = performance.now();
    this.drawn = Object.fromEntries([...this.channels].map(([key, channel]) => [key, channel.view]));
    for (const listener of this.listeners) listener();
    // What the draw costs is known when the browser comes to the next thing.
    setTimeout(() => {
      const now = performance.now();
      this.freeAtMs = begun + Math.max(LEAST_MS, (now - begun) / SHARE);
    }, 0);
    this.freeAtMs = begun + LEAST_MS;
  }
}

export const liveTraces = new LiveTraces();

export const useLiveTraces = (): Record<string, LiveChannel> => useSyncExternalStore(liveTraces.subscribe, liveTraces.now);
