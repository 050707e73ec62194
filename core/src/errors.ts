/** Too few usable samples, runs or points remain to answer; an empty list included. */
export class InsufficientDataError extends Error {
  override readonly name = 'InsufficientDataError';
}

/** Throws RangeError unless `value` is a finite number. `name` appears in the message. */
export function requireFinite(value: number, name: string): void {
  if (typeof value !== 'number' || !Number.isFinite(value)) throw new RangeError(`${name} must be a finite number, got ${value}`);
}

/** Throws RangeError unless `value` is finite and above zero. */
export function requirePositive(value: number, name: string): void {
  requireFinite(value, name);
  if (value <= 0) throw new RangeError(`${name} must be above zero, got ${value}`);
}

/** Throws RangeError unless `value` is finite and not negative. */
export function requireNotNegative(value: number, name: string): void {
  requireFinite(value, name);
  if (value < 0) throw new RangeError(`${name} must not be negative, got ${value}`);
}

/** Throws RangeError unless `value` is a probability strictly between 0 and 1. */
export function requireProbability(value: number, name: string): void {
  requireFinite(value, name);
  if (value <= 0 || value >= 1) throw new RangeError(`${name} must lie strictly between 0 and 1, got ${value}`);
}

/** Closes a choice over a union: a case that was forgotten does not compile, and one that came from outside is refused. */
export function unreachable(value: never): never {
  throw new RangeError(`nothing is known of ${JSON.stringify(value)}`);
}
