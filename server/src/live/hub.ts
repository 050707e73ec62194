import type { Response } from 'express';

/** Sends live messages to every open page of a run, as server-sent events. */
export class LiveHub {
  private readonly listeners = new Map<string, Set<Response>>();

  subscribe(topic: string, res: Response): void {
    res.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    res.write('retry: 1000\n\n');
    const set = this.listeners.get(topic) ?? new Set();
    this.listeners.set(topic, set.add(res));
    const beat = setInterval(() => res.write(': beat\n\n'), 15_000);
    res.on('close', () => {
      clearInterval(beat);
      set.delete(res);
      if (set.size === 0) this.listeners.delete(topic);
    });
  }

  hasListeners(topic: string): boolean {
    return this.listeners.has(topic);
  }

  publish(topic: string, event: string, data: unknown): void {
    const text = `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`;
    for (const res of this.listeners.get(topic) ?? []) res.write(text);
  }

  closeAll(): void {
    for (const set of this.listeners.values()) for (const res of set) res.end();
  }
}
