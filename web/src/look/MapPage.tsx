import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { coverageOf, type BoardMap, type Coverage, type Face } from '@red-ember/core';
import { type BoardMapBody, type SubjectBody } from '@red-ember/contract';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { BoardSize } from '../map/BoardSize.tsx';
import { CoverageNotes } from '../map/CoverageNotes.tsx';
import { CoverageTable } from '../map/CoverageTable.tsx';
import { placed, unplaced, withoutEntry, type Picked } from '../map/edits.ts';
import { FaceEntries } from '../map/FaceEntries.tsx';
import { Inspector } from '../map/Inspector.tsx';
import { MapCanvas } from '../map/MapCanvas.tsx';
import { MapTools } from '../map/MapTools.tsx';
import { StartShapes } from '../map/StartShapes.tsx';
import { WaitingSpots } from '../map/WaitingSpots.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { LookTabs } from './LookTabs.tsx';

function MapEditor({ body, change, subject }: Pick<StudyDraft, 'body' | 'change'> & { subject: SubjectBody }) {
  const [face, setFace] = useState<Face>('top');
  const [picked, setPicked] = useState<Picked | null>(null);
  const [placing, setPlacing] = useState<string | null>(null);
  const index = body.subjects.indexOf(subject);
  const setMap = (map: BoardMapBody | null) =>
    change({ subjects: body.subjects.map((entry, i) => (i === index ? { ...entry, map } : entry)) });
  const { map } = subject;
  const coverage = useMemo(() => map && safeCoverage(map), [map]);
  if (!map || !coverage) {
    return <StartShapes body={body} subject={subject} setMap={setMap} />;
  }
  const pointer = `/subjects/${index}/map`;
  const add = (next: BoardMapBody, what: Picked) => {
    setMap(next);
    setPicked(what);
  };
  const remove = (what: Picked) => {
    setMap(withoutEntry(map, what));
    setPicked(null);
  };
  const waiting = unplaced(map, body.spots);
  const tall = map.heightMm > map.widthMm * 0.6;
  return (
    <>
      <MapTools
        map={map}
        face={face}
        onFace={(next) => {
          setFace(next);
          setPicked(null);
        }}
        onAdd={add}
      />
      <FaceEntries map={map} face={face} picked={picked} onPick={setPicked} onAdd={add} />
      <div className={tall ? 'grid gap-6 lg:grid-cols-[auto_minmax(0,1fr)]' : 'grid gap-4'}>
        <MapCanvas
          map={map}
          spots={body.spots}
          face={face}
          coverage={coverage}
          picked={picked}
          onPick={setPicked}
          onChange={setMap}
          onRemove={remove}
          placing={placing}
          onPlace={(xMm, yMm) => {
            setMap(placed(map, placing!, face, xMm, yMm));
            setPicked({ list: 'placements', id: placing! });
            setPlacing(null);
          }}
        />
        <div className="min-w-0">
          {placing ? (
            <Notice tone="hint" action={<Button onClick={() => setPlacing(null)}>Cancel</Button>}>
              Press on the map where <b>{body.spots.find((spot) => spot.id === placing)?.name}</b> is read. It snaps to the part beneath.
            </Notice>
          ) : picked ? (
            <Inspector map={map} spots={body.spots} pointer={pointer} picked={picked} onChange={setMap} onRemove={remove} />
          ) : (
            <BoardSize map={map} pointer={pointer} onChange={setMap} />
          )}
          {waiting.length > 0 && !placing ? <WaitingSpots spots={waiting} onPlace={setPlacing} /> : null}
        </div>
      </div>
      <div className="mt-6">
        <Section title="What the covers do" hint="part by part, densest heat first">
          <CoverageTable map={map} coverage={coverage} />
        </Section>
      </div>
    </>
  );
}

/** While a size is half typed the map cannot be computed; the fields say what is missing. */
function safeCoverage(map: BoardMapBody): Coverage {
  try {
    return coverageOf(map as BoardMap);
  } catch {
    return { meetings: [], parts: [], touchedHeatShare: 0, trappedHeatShare: 0, bareHeatShare: 0, unplacedHeatShare: 0 };
  }
}

export function MapPage() {
  const study = useStudy();
  const [search, setSearch] = useSearchParams();
  const chosen = search.get('part');
  const subjectOf = (subjects: SubjectBody[]) => subjects.find((subject) => subject.id === chosen) ?? subjects[0]!;
  // The margin follows what is on the page, saved or not.
  const shown = subjectOf(useStudyDraft(study).body.subjects);
  return (
    <EditSheet
      study={study}
      station="Look"
      heading={`What lies where on ${shown.name}?`}
      under="Both faces are drawn as seen from above · parts are tinted by the density of their heat, covers dashed, pads hatched"
      margin={
        <>
          <MarginGroup title="What the covers do">
            {shown.map ? (
              <CoverageNotes coverage={safeCoverage(shown.map)} map={shown.map} />
            ) : (
              <Note>Draw the part first: a minute with a ruler.</Note>
            )}
          </MarginGroup>
          <MarginGroup title="On the map">
            <Note>
              Drag, or use the arrow keys on what has the focus: 1 mm, with Shift 5 mm, with Alt 0.1 mm. Delete takes it off; Ctrl Z brings
              it back.
            </Note>
            <Note>Heat shares need not be exact. They decide what a cover is worth, not how hot a part gets.</Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <LookTabs />
          {body.subjects.length > 1 ? (
            <div className="mb-4 flex flex-wrap gap-x-5 gap-y-1">
              {body.subjects.map((subject) => (
                <button
                  key={subject.id}
                  type="button"
                  aria-pressed={subject.id === subjectOf(body.subjects).id}
                  className={
                    subject.id === subjectOf(body.subjects).id
                      ? 'font-semibold underline decoration-2 underline-offset-4'
                      : 'text-soft hover:text-ink'
                  }
                  onClick={() => setSearch({ part: subject.id }, { replace: true })}
                >
                  {subject.name}
                </button>
              ))}
            </div>
          ) : null}
          <MapEditor key={subjectOf(body.subjects).id} body={body} change={change} subject={subjectOf(body.subjects)} />
        </>
      )}
    </EditSheet>
  );
}
