import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { getMetadataStorage, validateSync, type ValidationError } from 'class-validator';

export interface FieldProblem {
  /** JSON pointer to the field, e.g. "/spots/1/limitC". */
  pointer: string;
  /** One sentence for the tester. */
  sentence: string;
}

function flatten(errors: ValidationError[], path: string): FieldProblem[] {
  return errors.flatMap((error) => {
    const pointer = `${path}/${error.property}`;
    // Where a value has the wrong kind altogether, saying that it is also too large would only confuse.
    const constraints = error.constraints ?? {};
    const kind = ['isNumber', 'isInt', 'isString', 'isArray', 'isBoolean'].find((name) => name in constraints);
    const sentence = kind ? constraints[kind] : Object.values(constraints)[0];
    return [...(sentence === undefined ? [] : [{ pointer, sentence }]), ...flatten(error.children ?? [], pointer)];
  });
}

/** No body that is meant is deeper, or holds more things. */
const MOST_DEEP = 40;
const MOST_THINGS = 50_000;
/** Names that every object has by itself: what is sent under them would stand in their place. */
const OWN_NAMES = new Set(Object.getOwnPropertyNames(Object.prototype));

/** What no class could check without falling over it: depth, sheer number, names of the program's own. Null where there is nothing. */
function unfit(data: unknown): string | null {
  let things = 0;
  const open: { value: unknown; depth: number }[] = [{ value: data, depth: 0 }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth } = next;
    if (typeof value !== 'object' || value === null) continue;
    if (depth > MOST_DEEP) return `This is nested more than ${MOST_DEEP} deep.`;
    const entries = Object.entries(value);
    if ((things += entries.length) > MOST_THINGS) return `This holds more than ${MOST_THINGS} things.`;
    for (const [key, inner] of entries) {
      if (OWN_NAMES.has(key)) return `“${key}” is no name for a field.`;
      // A class would be held against every member of the inner list, of which there may be none.
      if (Array.isArray(value) && Array.isArray(inner)) return 'A list stands where one thing of a list is meant.';
      open.push({ value: inner, depth: depth + 1 });
    }
  }
  return null;
}

/** Signs that are not seen and change what is: control characters but tab and line end, and those that turn the direction of writing. */
// eslint-disable-next-line no-control-regex
const UNSEEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g;

/** A text without signs that nobody sees. */
export const withoutUnseen = (text: string): string => text.replace(UNSEEN, '');

/** The same data with no such signs in its texts: they would come out again in titles, calendars, tables and sentences. */
function seen(data: unknown): unknown {
  if (typeof data === 'string') return withoutUnseen(data);
  if (Array.isArray(data)) return data.map(seen);
  if (typeof data !== 'object' || data === null) return data;
  return Object.fromEntries(Object.entries(data).map(([key, value]) => [key, seen(value)]));
}

/** Lists that are longer than their class allows: said before the first of their members is looked at. */
function tooLong(type: new () => object, data: object): FieldProblem[] {
  return getMetadataStorage()
    .getTargetValidationMetadatas(type, '', false, false)
    .flatMap(({ name, propertyName, constraints, message }) => {
      const list = (data as Record<string, unknown>)[propertyName];
      const most = (constraints as unknown[] | undefined)?.[0];
      if (name !== 'arrayMaxSize' || !Array.isArray(list) || typeof most !== 'number' || list.length <= most) return [];
      return [
        {
          pointer: `/${propertyName}`,
          sentence: typeof message === 'string' ? message : `Up to ${most} can stand here, not ${list.length}.`,
        },
      ];
    });
}

/**
 * Checks unknown data against a contract class; the same class serves the form and the server.
 *
 * @returns the instance, or every problem with a pointer to its field. Unknown fields are refused.
 */
export function check<T extends object>(
  type: new () => T,
  data: unknown,
): { ok: true; value: T } | { ok: false; problems: FieldProblem[] } {
  if (typeof data !== 'object' || data === null || Array.isArray(data))
    return { ok: false, problems: [{ pointer: '', sentence: 'A JSON object is expected here.' }] };
  const misfit = unfit(data);
  if (misfit !== null) return { ok: false, problems: [{ pointer: '', sentence: misfit }] };
  const long = tooLong(type, data);
  if (long.length > 0) return { ok: false, problems: long };
  const value = plainToInstance(type, seen(data) as object);
  const errors = validateSync(value, { whitelist: true, forbidNonWhitelisted: true });
  return errors.length === 0 ? { ok: true, value } : { ok: false, problems: flatten(errors, '') };
}
