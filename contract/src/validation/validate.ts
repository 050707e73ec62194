import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';

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
  const value = plainToInstance(type, data);
  const errors = validateSync(value, { whitelist: true, forbidNonWhitelisted: true });
  return errors.length === 0 ? { ok: true, value } : { ok: false, problems: flatten(errors, '') };
}
