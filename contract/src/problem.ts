import type { FieldProblem } from './validation/validate.ts';

/** RFC 9457 problem details, with a sentence a tester understands and pointers to fields. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
  errors?: FieldProblem[];
}
