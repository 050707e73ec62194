import { counted } from '@red-ember/core';
import type { LogOfStudyBody, StagedLog } from '@red-ember/contract';
import { namesOfFiles, usedInstead } from '@red-ember/study';

/** What the tester has put right about a log; what is not in it stands as it was understood. */
export type LogEdit = Omit<LogOfStudyBody, 'id'>;
export type LogEdits = Readonly<Record<string, LogEdit>>;

/** A log as it goes into the study. */
export interface LogRow {
  log: StagedLog;
  use: boolean;
  /** Why it is not used; null where it is, or where the tester has said so. */
  why: string | null;
  variant: string;
  mount: number | null;
  startedAt: string | null;
  phases: StagedLog['guess']['phases'];
  columns: StagedLog['guess']['columns'];
  timeColumn: number | null;
  timeFormat: StagedLog['guess']['timeFormat'];
  /** Under the levels of a table, dB(A); null where none was measured. */
  noiseFloorDb: number | null;
}

/** What every log comes to, by what was understood and what was put right. @param part of the study that they go into */
export function rowsOf(logs: readonly StagedLog[], edits: LogEdits, part = ''): LogRow[] {
  const names = namesOfFiles(
    logs.map(({ fileName }) => fileName),
    part,
  );
  const files = logs.map(({ id, content }, i) => ({ content, copy: names[i]!.copy, aside: edits[id]?.use === false }));
  return logs.map((log, i): LogRow => {
    const edit = edits[log.id] ?? {};
    const instead = usedInstead(files, i);
    const why =
      instead !== null
        ? `the same readings as ${logs[instead]!.fileName}`
        : log.duplicateOf?.startsWith('run ')
          ? `the same readings as ${log.duplicateOf}`
          : null;
    return {
      log,
      use: edit.use ?? why === null,
      why: edit.use === undefined ? why : null,
      variant: edit.variant ?? names[i]!.variant ?? log.guess.variant ?? 'as it is',
      mount: edit.mount === undefined ? (names[i]!.mount ?? log.guess.mount) : edit.mount,
      // Read in another way, its times say another day.
      startedAt: edit.startedAt ?? (edit.timeFormat && edit.timeFormat !== log.guess.timeFormat ? null : log.guess.startedAt.iso),
      phases: (edit.phases as LogRow['phases'] | undefined) ?? log.guess.phases,
      columns: edit.columns ?? log.guess.columns,
      timeColumn: edit.timeColumn ?? log.guess.timeColumn,
      timeFormat: edit.timeFormat ?? log.guess.timeFormat,
      noiseFloorDb: edit.noiseFloorDb ?? null,
    };
  });
}

/** What is sent of a row: what is seen is what is made. Why a copy is not used the server finds by the same rule. */
export function sentOf(row: LogRow, edit: LogEdit): LogOfStudyBody {
  const { use, why, variant, mount, phases, columns } = row;
  return {
    ...edit,
    id: row.log.id,
    ...(why === null ? { use } : {}),
    variant,
    mount,
    phases: phases.map(({ kind, name, startS, endS }) => ({ kind, name, startS, endS })),
    columns,
  };
}

export const distinct = (names: readonly string[]) => [...new Set(names.map((name) => name.trim()).filter((name) => name !== ''))];

/** What the logs will come to, before it is made. */
export function sumOf(rows: readonly LogRow[]): string {
  const used = rows.filter(({ use }) => use);
  const variants = distinct(used.map(({ variant }) => variant));
  const per = variants.map((variant) => {
    const of = used.filter((row) => row.variant.trim() === variant);
    const mounts = new Set(of.flatMap(({ mount }) => (mount === null ? [] : [mount]))).size;
    return `${variant}: ${counted(of.length, 'run')}, ${mounts === 0 ? 'mounts unknown' : counted(mounts, 'mount')}`;
  });
  return per.join(' · ');
}
