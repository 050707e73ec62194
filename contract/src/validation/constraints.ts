import { mapProblems, type BoardMap } from '@red-ember/core';
import { registerDecorator, type ValidationArguments, type ValidationOptions } from 'class-validator';

type Owner = Record<string, unknown>;

function decorate(
  name: string,
  options: ValidationOptions | undefined,
  validate: (value: unknown, owner: Owner) => boolean,
  constraints: unknown[] = [],
): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name,
      target: target.constructor,
      propertyName: propertyName as string,
      constraints,
      ...(options ? { options } : {}),
      validator: { validate: (value: unknown, args?: ValidationArguments) => validate(value, (args?.object ?? {}) as Owner) },
    });
  };
}

/** The number lies above another field of the same object (or that field is missing). */
export function IsAboveField(other: string, options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'isAboveField',
    options,
    (value, owner) => typeof owner[other] !== 'number' || (typeof value === 'number' && value > (owner[other] as number)),
    [other],
  );
}

/** The number does not lie above another field of the same object (or that field is missing). */
export function IsNotAboveField(other: string, options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'isNotAboveField',
    options,
    (value, owner) => typeof owner[other] !== 'number' || (typeof value === 'number' && value <= (owner[other] as number)),
    [other],
  );
}

/** The direction fits what the claim is about: cooler and warmer are for temperatures. */
export function IsDirectionOf(outcome: string, options?: ValidationOptions): PropertyDecorator {
  return decorate('isDirectionOf', options, (value, owner) => {
    const allowed = owner[outcome] === 'temperature' ? ['cooler', 'warmer'] : ['less', 'more'];
    if (value === 'at-least') return owner[outcome] === 'watts-carried';
    return value === 'no-difference' || allowed.includes(value as string);
  });
}

/** A change that a bench can show: of a temperature up to 100 K, of anything else whatever its unit allows. */
export function IsPlausibleChange(options?: ValidationOptions): PropertyDecorator {
  return decorate('isPlausibleChange', options, (value, owner) => {
    const most = owner.outcome === undefined || owner.outcome === 'temperature' ? 100 : 1e9;
    return typeof value === 'number' && Math.abs(value) <= most;
  });
}

/** The text is a number where another field of the same object is filled in. */
export function IsNumericWhere(other: string, options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'isNumericWhere',
    options,
    (value, owner) => !owner[other] || (typeof value === 'string' && value.trim() !== '' && Number.isFinite(Number(value))),
    [other],
  );
}

/** In a phase that waits, the cap lies above the least length. */
export function IsCapAboveLength(options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'isCapAboveLength',
    options,
    (value, owner) => owner.mode === 'fixed' || (typeof value === 'number' && value > Number(owner.durationS)),
  );
}

/** No two entries share a name (case and outer blanks apart). */
export function HasDistinctNames(options?: ValidationOptions): PropertyDecorator {
  return decorate('hasDistinctNames', options, (value) => {
    if (!Array.isArray(value)) return true;
    const names = value.map((entry: { name?: unknown }) =>
      String(entry?.name ?? '')
        .trim()
        .toLowerCase(),
    );
    return new Set(names).size === names.length;
  });
}

/** No two texts are the same (case and outer blanks apart). */
export function HasDistinctStrings(options?: ValidationOptions): PropertyDecorator {
  return decorate('hasDistinctStrings', options, (value) => {
    if (!Array.isArray(value)) return true;
    const texts = value.map((entry) => String(entry).trim().toLowerCase());
    return new Set(texts).size === texts.length;
  });
}

/** Exactly one entry is the reference that others are compared with. */
export function HasOneReference(options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'hasOneReference',
    options,
    (value) =>
      !Array.isArray(value) ||
      value.length === 0 ||
      value.filter((entry: { isReference?: unknown }) => entry?.isReference === true).length === 1,
  );
}

/** The date lies after another date of the same object. */
export function IsLaterThan(other: string, options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'isLaterThan',
    options,
    (value, owner) => Date.parse(String(value)) > Date.parse(String(owner[other])) || Number.isNaN(Date.parse(String(owner[other]))),
    [other],
  );
}

/** One calibration point, or points at two indicated temperatures at least. */
export function HasDistinctIndicated(options?: ValidationOptions): PropertyDecorator {
  return decorate(
    'hasDistinctIndicated',
    options,
    (value) =>
      !Array.isArray(value) || value.length < 2 || new Set(value.map((point: { indicatedC?: unknown }) => point?.indicatedC)).size > 1,
  );
}

/** Nothing on the map overlaps or lies off the board; the sentence says what does. */
export function IsSoundMap(): PropertyDecorator {
  const first = (value: unknown): string | null => {
    try {
      return mapProblems(value as BoardMap)[0]?.sentence ?? null;
    } catch {
      return null; // a malformed map is named by its own fields
    }
  };
  return decorate(
    'isSoundMap',
    { message: (args) => first(args.value) ?? 'The map is not sound.' },
    (value) => value === null || value === undefined || first(value) === null,
  );
}
