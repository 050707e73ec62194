import { useMemo, useState } from 'react';
import { fixed, partAt, type BoardMap } from '@red-ember/core';
import { check, SurveyBody, type BoardMapBody, type SpotBody, type StudyBody, type Survey } from '@red-ember/contract';
import { Button } from '../ui/Button.tsx';
import { ProblemsContext } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { UndoButtons } from '../ui/UndoButtons.tsx';
import { HeatPicture, type Tool } from './HeatPicture.tsx';
import { HotSpots } from './HotSpots.tsx';
import { OnTheMap } from './OnTheMap.tsx';
import { PictureTools, ToolHint } from './PictureTools.tsx';
import { Surfaces } from './Surfaces.tsx';
import { readPicture, type Proposal } from './picture.ts';
import { useSurveyDraft } from './useSurveyDraft.ts';

const STATES = { saved: 'Saved', waiting: 'Not saved yet', saving: 'Saving…', refused: 'Not saved' };

/** The references with one of them set to a place of the picture; a new one begins at a place of the map that is easily found. */
function withReference(said: SurveyBody, map: BoardMapBody | null, index: 0 | 1, row: number, column: number): SurveyBody['references'] {
  const corner = map?.parts.find((part) => part.face === said.face);
  const old = said.references[index];
  const point = {
    row,
    column,
    xMm: old?.xMm ?? (index === 0 ? (corner?.xMm ?? 0) : (map?.widthMm ?? 10)),
    yMm: old?.yMm ?? (index === 0 ? (corner?.yMm ?? 0) : (map?.heightMm ?? 10)),
  };
  return index < said.references.length ? said.references.map((entry, i) => (i === index ? point : entry)) : [...said.references, point];
}

/** One picture: its surfaces, its place on the map, and the hot spots in it as proposals for thermocouples. */
export function SurveyEditor({
  survey,
  body,
  onAccept,
  onReload,
}: {
  survey: Survey;
  body: StudyBody;
  onAccept: (proposal: Proposal) => void;
  onReload: () => void;
}) {
  const draft = useSurveyDraft(survey);
  const { said, change } = draft;
  const [tool, setTool] = useState<Tool>({ kind: 'look' });
  const [shown, setShown] = useState<number | null>(null);
  const map = body.subjects.find((subject) => subject.id === said.subjectId)?.map ?? null;
  const read = useMemo(() => readPicture(survey, said), [survey, said]);
  const checked = useMemo(() => check(SurveyBody, JSON.parse(JSON.stringify(said))), [said]);

  const proposals = read.spots.map((spot): Proposal => {
    const at = read.registration?.toMap(spot.row, spot.column) ?? null;
    const part = at && map ? partAt(map as BoardMap, said.face, at.xMm, at.yMm) : null;
    return {
      name: part?.name ?? `Place at ${fixed(spot.temperatureC, 0)} °C`,
      componentClass: (part?.componentClass as SpotBody['componentClass'] | undefined) ?? null,
      place: part
        ? `On ${part.name}, ${said.face === 'top' ? 'upper face' : 'underside'}; hottest there in “${said.name}”`
        : `${fixed(spot.temperatureC, 1)} °C in “${said.name}”`,
      at,
    };
  });
  const taken = (proposal: Proposal) => body.spots.some((spot) => spot.place === proposal.place || spot.name === proposal.name);

  return (
    <ProblemsContext.Provider value={checked.ok ? [] : checked.problems}>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
        <PictureTools tool={tool} setTool={setTool} references={said.references.length} />
        <span className="flex items-center gap-2 text-[0.93rem]">
          <span role="status" className={draft.state === 'saved' ? 'text-soft' : 'text-ochre-text'}>
            {checked.ok ? STATES[draft.state] : 'Not saved: needs attention'}
          </span>
          <UndoButtons undo={draft.undo} redo={draft.redo} />
        </span>
      </div>
      {draft.sentence ? (
        <Notice tone="error" action={draft.conflict ? <Button onClick={onReload}>Take over the other version</Button> : undefined}>
          {draft.sentence}
        </Notice>
      ) : null}
      {read.sentence ? <Notice tone="error">{read.sentence}</Notice> : null}
      <ToolHint tool={tool} />
      <HeatPicture
        read={read}
        said={said}
        map={map}
        tool={tool}
        shownSpot={shown}
        onRegion={(region) => {
          change({
            regions: [...said.regions, { ...region, name: `surface ${said.regions.length + 1}`, emissivity: 0.2, reflectedC: null }],
          });
          setTool({ kind: 'look' });
        }}
        onReference={(row, column) => {
          if (tool.kind !== 'reference') return;
          change({ references: withReference(said, map, tool.index, row, column) });
          setTool({ kind: 'look' });
        }}
      />
      <div className="mt-5 grid gap-x-8 lg:grid-cols-2">
        <HotSpots read={read} said={said} proposals={proposals} taken={taken} onShow={setShown} onAccept={onAccept} change={change} />
        <Section title="Surfaces">
          <Surfaces said={said} change={change} />
          <OnTheMap map={map} said={said} read={read} change={change} />
        </Section>
      </div>
    </ProblemsContext.Provider>
  );
}
