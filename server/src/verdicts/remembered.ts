/** Answers kept at a time: a slider that is dragged asks for many. */
const MOST = 500;

/** What was worked out and still holds: many pages ask for the same, and a shelf for everything at once. */
export class Remembered {
  private readonly told = new Map<string, unknown>();
  private toldAt = '';

  /** @param stampOf changes whenever anything does that an answer rests on */
  constructor(private readonly stampOf: () => string) {}

  get<T>(key: string, make: () => T): T {
    const stamp = this.stampOf();
    if (stamp !== this.toldAt || this.told.size > MOST) this.told.clear();
    this.toldAt = stamp;
    if (!this.told.has(key)) this.told.set(key, make());
    return this.told.get(key) as T;
  }
}
