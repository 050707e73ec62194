import { measured } from '@red-ember/core';
import { useDegrees } from '../data/useDegrees.ts';

/** A value with unit and doubt, rounded to its doubt. Set as one piece, so that copying takes all of it. */
export function Measured({
  value,
  doubt,
  unit,
  sign = false,
  className = '',
}: {
  value: number;
  doubt: number;
  unit: string;
  sign?: boolean;
  className?: string;
}) {
  const { text } = useDegrees();
  const [shown, rest] = text(measured(value, doubt, unit, { sign })).split(/\s±\s/);
  return (
    <span className={`whitespace-nowrap ${className}`}>
      <b className="font-semibold">{shown}</b>
      <span className="font-normal"> ± {rest}</span>
    </span>
  );
}
