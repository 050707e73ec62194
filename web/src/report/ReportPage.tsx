import { Download, Printer } from 'lucide-react';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { addressOf } from '@red-ember/contract/operations';
import { ownZone, useVerdictQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { pairAskOf, queryOfAsk } from '../judge/pairAsk.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button, FileLink } from '../ui/Button.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { figuresOf, packed, packedPictures } from './figures.ts';
import { Notice } from '../ui/Notice.tsx';
import { Pick } from '../ui/Pick.tsx';
import { useStudy } from '../study/StudyFrame.tsx';

const FORMS = [
  { value: 'whole', label: 'the whole' },
  { value: 'short', label: 'a page a reader' },
];

export function ReportPage() {
  const study = useStudy();
  const frame = useRef<HTMLIFrameElement>(null);
  const [search, setSearch] = useSearchParams();
  const form = search.get('form') === 'short' ? 'short' : 'whole';
  const asked = queryOfAsk(pairAskOf(search));
  const { data: verdict } = useVerdictQuery({ studyId: study.id, ...asked });
  const { degrees } = useDegrees();
  const inThem = degrees === 'F' ? { degrees } : {};
  const report = (download = {}) =>
    `/api/v1${addressOf('report', { id: study.id }, { ...asked, ...inThem, zone: ownZone(), ...(form === 'short' ? { form } : {}), ...download })}`;
  const readings = `/api/v1${addressOf('readingsCsv', { id: study.id }, asked)}`;
  const [drawn, setDrawn] = useState(false);
  const choose = (chosen: string) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.delete('form');
        if (chosen === 'short') next.set('form', chosen);
        return next;
      },
      { replace: true },
    );
  const [painting, setPainting] = useState<'no' | 'now' | 'failed'>('no');
  const save = (file: Uint8Array<ArrayBuffer>, kind: string) =>
    saveFile(file, { name: `${study.title} figures, ${kind}`, ending: 'zip', type: 'application/zip' });
  const saveDrawings = () => {
    const page = frame.current?.contentDocument;
    if (page) save(packed(figuresOf(page)), 'SVG');
  };
  const savePictures = async () => {
    const page = frame.current?.contentDocument;
    if (!page) return;
    setPainting('now');
    try {
      save(await packedPictures(page), 'PNG');
      setPainting('no');
    } catch {
      setPainting('failed');
    }
  };
  return (
    <Sheet
      crumb={`${study.title} / Report`}
      windowTitle={`Report, ${study.title}`}
      heading={
        verdict && !verdict.refusal ? (
          <>
            Report: {verdict.judgement.a.name} against {verdict.judgement.b.name}
          </>
        ) : (
          'Report'
        )
      }
      actions={
        <>
          <Button onClick={() => frame.current?.contentWindow?.print()}>
            <Printer size={16} aria-hidden /> Print
          </Button>
          <FileLink href={report({ download: 'true' })}>
            <Download size={16} aria-hidden /> Report, HTML
          </FileLink>
          <FileLink href={readings}>
            <Download size={16} aria-hidden /> Readings, CSV
          </FileLink>
          <FileLink href={`/api/v1${addressOf('studyFile', { id: study.id })}`}>
            <Download size={16} aria-hidden /> Whole study, ZIP
          </FileLink>
        </>
      }
      margin={
        <>
          <MarginGroup title="What it is">
            <Note>
              One file with everything in it: verdict, strips, readings, conditions, caveats and method. It opens anywhere and asks nothing
              of the network.
            </Note>
            <Note>
              In its short form it is a page for each reader of Choice: what that reader would take, what counts, how it stands against the
              reference or, where it is that, the next best, and what has to be known beside it.
            </Note>
            <Note>
              Figures are taken from it as they stand there, each a file of SVG to go on drawing in, or of PNG to put anywhere, all in one
              ZIP.
            </Note>
            <Note>
              The CSV holds one line per run and spot. Cells that a spreadsheet would take for a formula are made safe. It is in °C and K,
              whatever degrees are shown.
            </Note>
            <Note>
              The ZIP holds the whole study in open formats: samples as CSV and Parquet, mounts, photographs, history, this report. Another
              bench reads it in when it is dropped on its shelf, and says whether it comes to the same.
            </Note>
          </MarginGroup>
          {verdict?.judgement.leftOut.length ? (
            <MarginGroup title="Said in it">
              <Note tone="caution">
                {verdict.judgement.leftOut.length === 1 ? 'One run is' : `${verdict.judgement.leftOut.length} runs are`} left out, with the
                reason.
              </Note>
            </MarginGroup>
          ) : null}
        </>
      }
    >
      {verdict?.refusal ? <Notice tone="hint">{verdict.refusal} The report says so, and holds what there is.</Notice> : null}
      <p className="mb-3 flex flex-wrap items-center gap-2">
        <span className="mr-auto">
          <Pick label="Form" value={form} options={FORMS} onChange={choose} />
        </span>
        <Button disabled={!drawn} onClick={saveDrawings}>
          <Download size={16} aria-hidden /> Figures, SVG
        </Button>
        <Button disabled={!drawn || painting === 'now'} onClick={() => void savePictures()}>
          <Download size={16} aria-hidden /> Figures, PNG
        </Button>
      </p>
      {painting === 'failed' ? <Notice tone="error">This browser could not paint the figures. They can be taken as SVG.</Notice> : null}
      <iframe
        ref={frame}
        onLoad={() => setDrawn(true)}
        sandbox="allow-same-origin allow-modals"
        title={`Report of ${study.title}`}
        src={report()}
        className="h-[calc(100vh-11rem)] min-h-[36rem] w-full border border-rule bg-white"
      />
    </Sheet>
  );
}
