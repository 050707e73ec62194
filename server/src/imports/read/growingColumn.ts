type Column = Int32Array<ArrayBuffer> | Float64Array<ArrayBuffer>;

/** A column of numbers that grows by doubling: eight bytes a reading, and no array of a million boxes. */
export class GrowingColumn<T extends Column> {
  private held: T;
  private length = 0;

  constructor(private readonly kind: new (length: number) => T) {
    this.held = new kind(4096);
  }

  push(value: number): void {
    if (this.length === this.held.length) {
      const grown = new this.kind(2 * this.length);
      grown.set(this.held);
      this.held = grown;
    }
    this.held[this.length++] = value;
  }

  /** What was pushed, in memory of its own length. */
  values(): T {
    return this.held.slice(0, this.length) as T;
  }
}
