import { Layers, Plus, Square, SquareDashed } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { coverageOf, fixed, type BoardMap, type Coverage, type Face } from '@red-ember/core';
import { type BoardMapBody, type SubjectBody } from '@red-ember/contract';
import { START_MAPS, startMap, startMapsOf } from '@red-ember/study';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { CoverageTable } from '../map/CoverageTable.tsx';
import { newCover, newPart, newScrew, newZone, placed, unplaced, withoutEntry, type Picked } from '../map/edits.ts';
import { Inspector } from '../map/Inspector.tsx';
import { MapCanvas } from '../map/MapCanvas.tsx';
import { Button } from '../ui/Button.tsx';
import { NumberField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { LookTabs } from './LookTabs.tsx';

const FACES: { value: Face; label: string }[] = [
  { value: 'top', label: 'Upper face' },
  { value: 'under', label: 'Underside' },
];

/** The shares of heat in one sentence each, for the margin. */
function CoverageNotes({ coverage, map }: { coverage: Coverage; map: BoardMapBody }) {
  const percent = (share: number) => `${fixed(100 * share, 0)} %`;
  if (map.covers.length === 0)
    return <Note>No cover on this map yet. Add one to see what it would touch and what it would leave bare.</Note>;
  const uneven = coverage.meetings.filter((meeting) => meeting.meeting === 'pad' && meeting.pad!.worstCase.contact === 'none');
  const hits = coverage.meetings.filter((meeting) => meeting.meeting === 'collides');
  const nameOf = (id: string) => map.parts.find((part) => part.id === id)?.name ?? '';
  return (
    <>
      <Note tone="cool" lead={`${percent(coverage.touchedHeatShare)} of the heat`}>
        comes from parts that a cover touches.
      </Note>
      {coverage.bareHeatShare > 0.005 ? (
        <Note tone="caution" lead={`${percent(coverage.bareHeatShare)} is left bare:`}>
          {coverage.parts
            .filter((part) => part.state === 'bare' && part.heatW > 0)
            .slice(0, 4)
            .map((part) => nameOf(part.partId))
            .join(', ')}
          .
        </Note>
      ) : null}
      {coverage.trappedHeatShare > 0 ? (
        <Note tone="heat" lead={`${percent(coverage.trappedHeatShare)} is trapped:`}>
          under a cover that does not touch it, so its air stands still.
        </Note>
      ) : null}
      {uneven.length > 0 ? (
        <Note tone="caution" lead="Uneven heights.">
          At the far end of its tolerance the pad loses{' '}
          {uneven
            .map((meeting) => nameOf(meeting.partId))
            .slice(0, 3)
            .join(', ')}
          .
        </Note>
      ) : null}
      {hits.length > 0 ? (
        <Note tone="heat" lead="Does not fit.">
          {hits
            .map((meeting) => nameOf(meeting.partId))
            .slice(0, 3)
            .join(', ')}{' '}
          {hits.length === 1 ? 'stands' : 'stand'} higher than the cover.
        </Note>
      ) : null}
      {coverage.unplacedHeatShare > 0.005 ? (
        <Note>{percent(coverage.unplacedHeatShare)} is given to no part: it spreads over the board.</Note>
      ) : null}
    </>
  );
}

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
    const others = body.subjects.filter((other) => other.map && other.id !== subject.id);
    return (
      <Section title="Start from a shape" hint="sizes, parts and heat shares are changed afterwards">
        <div className="flex flex-wrap gap-2">
          {startMapsOf(body.family).map((kind) => (
            <Button key={kind} onClick={() => setMap(startMap(kind))}>
              {START_MAPS[kind]}
            </Button>
          ))}
          {others.map((other) => (
            <Button key={other.id} onClick={() => setMap(other.map)}>
              As {other.name}
            </Button>
          ))}
        </div>
      </Section>
    );
  }
  const remove = (what: Picked) => {
    setMap(withoutEntry(map, what));
    setPicked(null);
  };
  const waiting = unplaced(map, body.spots);
  const tall = map.heightMm > map.widthMm * 0.6;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div className="flex" role="group" aria-label="Face">
          {FACES.map(({ value, label }) => (
            <button
              key={value}
              type="button"
              aria-pressed={face === value}
              className={`-ml-px border px-3 py-1 first:ml-0 ${face === value ? 'border-ink bg-ink text-paper' : 'border-stone'}`}
              onClick={() => {
                setFace(value);
                setPicked(null);
              }}
            >
              {label}
            </button>
          ))}
        </div>
        <span className="flex flex-wrap gap-1">
          <Button
            look="quiet"
            onClick={() => {
              const part = newPart(map, face);
              setMap({ ...map, parts: [...map.parts, part as BoardMapBody['parts'][number]] });
              setPicked({ list: 'parts', id: part.id });
            }}
          >
            <Square size={15} aria-hidden /> Add a part
          </Button>
          <Button
            look="quiet"
            onClick={() => {
              const { cover, pad } = newCover(map, face);
              setMap({ ...map, covers: [...map.covers, cover], pads: [...map.pads, pad] });
              setPicked({ list: 'covers', id: cover.id });
            }}
          >
            <Layers size={15} aria-hidden /> Add a cover
          </Button>
          <Button
            look="quiet"
            onClick={() => {
              const zone = newZone(map, face);
              setMap({ ...map, zones: [...(map.zones ?? []), zone] });
              setPicked({ list: 'zones', id: zone.id });
            }}
          >
            <SquareDashed size={15} aria-hidden /> Add a zone
          </Button>
        </span>
      </div>
      {map.covers.some((cover) => cover.face === face) ? (
        <p className="mb-2 flex flex-wrap gap-x-5 gap-y-1 text-[0.93rem]">
          {map.covers
            .filter((cover) => cover.face === face)
            .flatMap((cover) => [
              { list: 'covers' as const, id: cover.id, name: cover.name },
              ...map.pads.filter((pad) => pad.coverId === cover.id).map((pad) => ({ list: 'pads' as const, id: pad.id, name: pad.name })),
            ])
            .map(({ list, id, name }) => (
              <button
                key={id}
                type="button"
                aria-pressed={picked?.id === id}
                className={
                  picked?.id === id
                    ? 'font-semibold underline decoration-ember decoration-2 underline-offset-4'
                    : 'text-quench-text hover:underline'
                }
                onClick={() => setPicked({ list, id })}
              >
                {name}
              </button>
            ))}
          <button
            type="button"
            className="text-soft hover:text-ink"
            onClick={() => {
              const cover = map.covers.find((candidate) => candidate.face === face)!;
              const pad = {
                ...cover,
                id: crypto.randomUUID(),
                name: `Pad ${map.pads.length + 1}`,
                coverId: cover.id,
                padMm: 1.5,
                conductivityWPerMK: 5,
              };
              const { xMm, yMm, widthMm, heightMm, id, name, coverId, padMm, conductivityWPerMK } = pad;
              setMap({ ...map, pads: [...map.pads, { xMm, yMm, widthMm, heightMm, id, name, coverId, padMm, conductivityWPerMK }] });
              setPicked({ list: 'pads', id });
            }}
          >
            + another pad
          </button>
          <button
            type="button"
            className="text-soft hover:text-ink"
            onClick={() => {
              const at =
                map.covers.find((candidate) => candidate.id === picked?.id) ?? map.covers.find((candidate) => candidate.face === face)!;
              const screw = newScrew(map, at);
              setMap({ ...map, screws: [...(map.screws ?? []), screw] });
              setPicked({ list: 'screws', id: screw.id });
            }}
          >
            + a screw
          </button>
          {(map.zones ?? [])
            .filter((zone) => zone.face === face)
            .map((zone) => (
              <button
                key={zone.id}
                type="button"
                aria-pressed={picked?.id === zone.id}
                className={
                  picked?.id === zone.id
                    ? 'font-semibold underline decoration-ember decoration-2 underline-offset-4'
                    : 'text-soft hover:underline'
                }
                onClick={() => setPicked({ list: 'zones', id: zone.id })}
              >
                {zone.name}
              </button>
            ))}
        </p>
      ) : null}
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
            <Inspector
              map={map}
              spots={body.spots}
              pointer={`/subjects/${index}/map`}
              picked={picked}
              onChange={setMap}
              onRemove={remove}
            />
          ) : (
            <div className="grid max-w-md grid-cols-3 gap-3">
              <NumberField
                label="Width"
                unit="mm"
                pointer={`/subjects/${index}/map/widthMm`}
                value={map.widthMm}
                onChange={(widthMm) => setMap({ ...map, widthMm })}
              />
              <NumberField
                label="Length"
                unit="mm"
                pointer={`/subjects/${index}/map/heightMm`}
                value={map.heightMm}
                onChange={(heightMm) => setMap({ ...map, heightMm })}
              />
              <NumberField
                label="Heat in all"
                unit="W"
                pointer={`/subjects/${index}/map/heatW`}
                value={map.heatW}
                onChange={(heatW) => setMap({ ...map, heatW })}
              />
            </div>
          )}
          {waiting.length > 0 && !placing ? (
            <div className="mt-4">
              <p className="mb-1 text-[0.87rem] text-soft">Not on this map yet: press one, then its place</p>
              <div className="flex flex-wrap gap-x-4 gap-y-1">
                {waiting.map((spot) => (
                  <button
                    key={spot.id}
                    type="button"
                    className="inline-flex items-center gap-1 underline hover:text-soft"
                    onClick={() => setPlacing(spot.id)}
                  >
                    <Plus size={13} aria-hidden /> {spot.name}
                  </button>
                ))}
              </div>
            </div>
          ) : null}
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
