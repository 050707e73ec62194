import { Download } from 'lucide-react';
import { Link } from 'react-router';
import { addressOf } from '@red-ember/contract/operations';
import { sentenceOf, useRigsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { FileLink } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { BackupsSection } from './BackupsSection.tsx';
import { RigRehearsal } from './RigRehearsal.tsx';

/** How often rigs are asked for, ms: a rehearsal goes on while one looks. */
const LOOK_EVERY_MS = 1000;

/** What makes it safe to leave the bench alone: rigs that have shown that their load goes off, and copies of everything. */
export function BenchPage() {
  const { data: rigs, error, isLoading } = useRigsQuery(undefined, { pollingInterval: LOOK_EVERY_MS });
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="Bench"
      heading="Can this bench be left alone?"
      margin={
        <>
          <MarginGroup title="A rehearsal">
            <Note>
              The load is put on and taken off three times: by a Stop, by a server that falls silent, and by a cut-out whose limit is set
              just below what the hottest sensor shows. About twenty seconds of it are under load.
            </Note>
            <Note tone="caution">
              The part gets warm. Rehearse with its cooler on, and with somebody beside it: what is tried here is whether anything else
              takes the load off.
            </Note>
            <Note>
              A rig that is not simulated is to rehearse before its first run, and again after its feeder, its script or its machine was
              changed. The list before a run says when that was.
            </Note>
          </MarginGroup>
          <MarginGroup title="Copies">
            <Note>
              One is made every day while the bench runs; seven of these are kept. They lie beside the data: keep one elsewhere too.
            </Note>
          </MarginGroup>
        </>
      }
    >
      <Section title="Rigs">
        {isLoading ? <Waiting what="Looking for rigs" /> : null}
        {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
        {rigs?.length === 0 ? (
          <Notice tone="hint">
            No rig has connected. <code className="bg-margin px-1">npm run demo</code> starts the simulated benches beside the server.
          </Notice>
        ) : null}
        {rigs
          ?.toSorted((a, b) => a.name.localeCompare(b.name))
          .map((rig) => (
            <RigRehearsal key={rig.id} rig={rig} />
          ))}
      </Section>
      <BackupsSection />
      <Section title="To another bench">
        <p className="mb-3 max-w-(--container-measure)">
          Every study on the shelf in one file: each as its own study file, in open formats. Another bench takes all of them when it is
          dropped on its shelf, and says of each whether it comes to the same. Of a large bench it takes a while; the trash and practice
          stay here.
        </p>
        <FileLink href={`/api/v1${addressOf('benchFile', {})}`}>
          <Download size={16} aria-hidden /> All studies, ZIP
        </FileLink>
      </Section>
    </Sheet>
  );
}
