import { useEffect, useState } from 'react';
import { columnsFor } from '../ui/tableColumns.ts';
import { fixed } from '@red-ember/core';
import type { Backup, BackupKind } from '@red-ember/contract';
import { sentenceOf, useBackupsQuery, useMakeBackupMutation, useRestoreBackupMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { secondOf } from '../ui/dates.ts';

const KINDS: Record<BackupKind, string> = {
  daily: 'made by itself, once a day',
  'by-hand': 'made by hand',
  'before-update': 'before this version changed the data',
  'set-aside': 'what a restore replaced',
};
const when = (at: string) => secondOf(at);
/** While the bench is closed it is asked this often whether it is back, ms. */
const ASK_EVERY_MS = 500;

interface Acts {
  bringBack: (backup: Backup) => void;
}

const column = columnsFor<Backup>();
const COLUMNS = [
  column.accessor('at', { header: 'Written', cell: ({ getValue }) => when(getValue()) }),
  column.accessor((backup) => KINDS[backup.kind], { id: 'kind', header: 'What it is' }),
  column.accessor('bytes', {
    header: 'Size',
    cell: ({ getValue }) => `${fixed(getValue() / 1e6, 1)} MB`,
    meta: { number: true },
  }),
  column.display({
    id: 'acts',
    header: '',
    cell: ({ row: { original: backup }, table }) => (
      <button type="button" className="underline hover:text-soft" onClick={() => (table.options.meta!.acts as Acts).bringBack(backup)}>
        Bring back<span className="sr-only"> the copy of {when(backup.at)}</span>
      </button>
    ),
  }),
];

/** Copies of the whole bench: one more, or one of them back. */
export function BackupsSection() {
  /** How the data were opened when a restore was asked; null while none is under way. */
  const [closing, setClosing] = useState<string | null>(null);
  const { data: shelf, error } = useBackupsQuery(undefined, { pollingInterval: closing === null ? 0 : ASK_EVERY_MS });
  const [make, making] = useMakeBackupMutation();
  const [restore, restoring] = useRestoreBackupMutation();
  const [asked, setAsked] = useState<Backup | null>(null);
  const opened = shelf?.opened;
  useEffect(() => {
    // Other data are open now: nothing that this page holds may stand beside them.
    if (closing !== null && opened !== undefined && opened !== closing) location.reload();
  }, [closing, opened]);
  const bringBack = async (backup: Backup) => {
    const answer = await restore(backup.id);
    setAsked(null);
    if ('data' in answer && answer.data) setClosing(answer.data.opened);
  };
  return (
    <Section
      title="Copies of everything"
      action={
        <Button disabled={making.isLoading || closing !== null} onClick={() => void make()}>
          {making.isLoading ? 'Copying…' : 'Copy now'}
        </Button>
      }
    >
      {closing !== null ? (
        <Notice tone="hint">The copy is being brought back. The bench is closed for some seconds; this page opens again by itself.</Notice>
      ) : null}
      {error && closing === null ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {making.error ? <Notice tone="error">{sentenceOf(making.error)}</Notice> : null}
      {restoring.error ? <Notice tone="error">{sentenceOf(restoring.error)}</Notice> : null}
      {shelf?.restored && closing === null ? (
        <Notice tone={shelf.restored.ok ? 'hint' : 'error'}>
          {when(shelf.restored.at)}: {shelf.restored.sentence}
        </Notice>
      ) : null}
      {shelf?.backups.length === 0 ? <Notice tone="hint">No copy yet. The first is made within a quarter of an hour.</Notice> : null}
      {shelf && shelf.backups.length > 0 ? (
        <DataTable
          label="Copies"
          rows={shelf.backups}
          columns={COLUMNS}
          sorted={[{ id: 'at', desc: true }]}
          acts={{ bringBack: setAsked } satisfies Acts}
        />
      ) : null}
      <Dialogue open={asked !== null} onClose={() => setAsked(null)} title="Bring this copy back?">
        <p className="mb-3">
          The bench will be as it was on {asked ? when(asked.at) : ''}. Everything written since then, runs too, goes out of sight: it is
          set aside as a copy of its own and can be brought back in the same way.
        </p>
        <p className="mb-5 text-soft">The bench is closed for some seconds, in every window. It is refused while a run goes on.</p>
        <div className="flex gap-3">
          <Button look="strong" disabled={restoring.isLoading} onClick={() => void bringBack(asked!)}>
            Bring it back
          </Button>
          <Button onClick={() => setAsked(null)}>Leave it</Button>
        </div>
      </Dialogue>
    </Section>
  );
}
