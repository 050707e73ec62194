import { fixed, type Evidence } from '@red-ember/core';

/**
 * What stands on a side of a comparison, as an address names it: a variant by its id, one of its runs, every run at a level of a
 * factor, or a variant of another study.
 */
export type SideName =
  | { kind: 'variant'; id: string }
  | { kind: 'run'; id: string }
  | { kind: 'level'; factor: string; level: string }
  | { kind: 'elsewhere'; studyId: string; variantId: string };

/** How figures are asked for otherwise than they were measured, as an address names it. */
export type RestatementName = { kind: 'power'; targetW: number; exponent: number } | { kind: 'noise'; levelDb: number };

/** What sets the parts of a name apart, and what stands for it within one. */
const coded = (text: string) => text.replace(/[%=:]/g, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`);
const plain = (text: string) => text.replace(/%(25|3D|3A)/gi, (_, code: string) => String.fromCharCode(parseInt(code, 16)));

/** "run:ID", "level:FACTOR=LEVEL", "study:STUDY:VARIANT", or the variant's id as it stands. */
export function printSide(side: SideName): string {
  switch (side.kind) {
    case 'variant':
      return side.id;
    case 'run':
      return `run:${side.id}`;
    case 'level':
      return `level:${coded(side.factor)}=${coded(side.level)}`;
    case 'elsewhere':
      return `study:${side.studyId}:${side.variantId}`;
    default:
      return side satisfies never;
  }
}

/** The other way; anything that begins like none of the others is taken for a variant's id. */
export function parseSide(text: string): SideName {
  const [, kind, rest = ''] = /^(run|level|study):(.*)$/su.exec(text) ?? [];
  const cut = rest.indexOf(kind === 'level' ? '=' : ':');
  if (kind === 'run') return { kind, id: rest };
  if (kind === 'level' && cut >= 0) return { kind, factor: plain(rest.slice(0, cut)), level: plain(rest.slice(cut + 1)) };
  if (kind === 'study' && cut >= 0) return { kind: 'elsewhere', studyId: rest.slice(0, cut), variantId: rest.slice(cut + 1) };
  return { kind: 'variant', id: text };
}

/** Id of the other study that a side comes from; null where it is of this one. */
export function otherStudyOf(text: string | undefined): string | null {
  const side = text === undefined ? null : parseSide(text);
  return side?.kind === 'elsewhere' ? side.studyId : null;
}

/** "power:W:EXPONENT" or "noise:DB". */
export function printRestatement(name: RestatementName): string {
  switch (name.kind) {
    case 'power':
      return `power:${name.targetW}:${name.exponent}`;
    case 'noise':
      return `noise:${name.levelDb}`;
    default:
      return name satisfies never;
  }
}

/** Power that a part can be restated to, W; an exponent that heat can follow; a level that an ear can meet, dB(A). */
const BOUNDS = { targetW: [0.1, 5000], exponent: [0.1, 3], levelDb: [0, 140] } as const;

function bounded(text: string | undefined, what: string, [least, most]: readonly [number, number]): number {
  const value = /^-?\d+(\.\d+)?(e[+-]?\d+)?$/i.test(text ?? '') ? Number(text) : NaN;
  if (!(value >= least && value <= most)) throw new RangeError(`${what} must be a number from ${least} to ${most}.`);
  return value;
}

/**
 * The other way.
 *
 * @throws RangeError with a sentence, where it names neither, or a figure that cannot be
 */
export function parseRestatement(text: string): RestatementName {
  const [kind, first, second] = text.split(':');
  if (kind === 'power')
    return {
      kind,
      targetW: bounded(first, 'The power', BOUNDS.targetW),
      exponent: bounded(second ?? '1', 'The exponent', BOUNDS.exponent),
    };
  if (kind === 'noise') return { kind, levelDb: bounded(first, 'The sound level', BOUNDS.levelDb) };
  throw new RangeError('A verdict can be restated at a power or at a noise level.');
}

/** The same of what somebody may still be typing; null where it names nothing that can be. */
export function readRestatement(text: string): RestatementName | null {
  try {
    return parseRestatement(text);
  } catch {
    return null;
  }
}

/**
 * As an address names it; strict where it names none.
 *
 * @throws RangeError any other word
 */
export function parseEvidence(text: string | null | undefined): Evidence {
  if (!text || text === 'strict') return 'strict';
  if (text === 'usual') return 'usual';
  throw new RangeError('Evidence is weighed strict or usual.');
}

/** What is asked of a call, in words, alike on the page and in the report. */
export const EVIDENCE_WORDS: Record<Evidence, string> = {
  strict: 'strict: several spots pay for each other, and what nobody saw is not taken for granted',
  usual: 'usual: every spot speaks by itself, and fans that nobody watched are taken at their word',
};

/** What was done to the figures of a comparison, in words, alike on the page and in the report; empty where they stand as measured. */
export function askedWords({ load, restate }: { load?: string | undefined; restate?: RestatementName | null | undefined }): string {
  const how = !restate
    ? ''
    : restate.kind === 'power'
      ? `restated to ${restate.targetW} W (rise as power${restate.exponent === 1 ? '' : ` to the ${restate.exponent}`}), not measured there`
      : `read off each run’s fan sweep at ${fixed(restate.levelDb, 1)} dB(A), between measured points`;
  return [load ? `at load “${load}”` : '', how].filter(Boolean).join(', ');
}
