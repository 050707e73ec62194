import { Crosshair, Plus, SquareDashed, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { fixed, partAt, type BoardMap } from '@red-ember/core';
import { check, SurveyBody, type SpotBody, type StudyBody, type Survey } from '@red-ember/contract';
import { Button } from '../ui/Button.tsx';
import { NumberField, ProblemsContext, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { HeatPicture, type Tool } from './HeatPicture.tsx';
import { readPicture } from './picture.ts';
import { useSurveyDraft } from './useSurveyDraft.ts';

const STATES = { saved: 'Saved', waiting: 'Not saved yet', saving: 'Saving…', refused: 'Not saved' };

export interface Proposal {
  name: string;
  componentClass: SpotBody['componentClass'] | null;
  place: string;
  /** On the map; null while the picture is not laid over it. */
  at: { xMm: number; yMm: number } | null;
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
  const setRegion = (index: number, part: object) =>
    change({ regions: said.regions.map((region, i) => (i === index ? { ...region, ...part } : region)) });
  const setReference = (index: number, part: object) =>
    change({ references: said.references.map((reference, i) => (i === index ? { ...reference, ...part } : reference)) });

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
        <div className="flex flex-wrap items-center gap-1">
          <Button
            look={tool.kind === 'region' ? 'strong' : 'quiet'}
            aria-pressed={tool.kind === 'region'}
            onClick={() => setTool(tool.kind === 'region' ? { kind: 'look' } : { kind: 'region' })}
          >
            <SquareDashed size={15} aria-hidden /> Mark a surface
          </Button>
          {([0, 1] as const).map((index) => {
            const on = tool.kind === 'reference' && tool.index === index;
            return (
              <Button
                key={index}
                look={on ? 'strong' : 'quiet'}
                aria-pressed={on}
                disabled={index > said.references.length}
                onClick={() => setTool(on ? { kind: 'look' } : { kind: 'reference', index })}
              >
                <Crosshair size={15} aria-hidden /> Reference {index === 0 ? 'A' : 'B'}
              </Button>
            );
          })}
        </div>
        <span className="flex items-center gap-2 text-[0.93rem]">
          <span role="status" className={draft.state === 'saved' ? 'text-soft' : 'text-ochre-text'}>
            {checked.ok ? STATES[draft.state] : 'Not saved: needs attention'}
          </span>
          <Button look="quiet" disabled={!draft.undo} onClick={() => draft.undo?.()}>
            Undo
          </Button>
        </span>
      </div>
      {draft.sentence ? (
        <Notice tone="error" action={draft.conflict ? <Button onClick={onReload}>Take over the other version</Button> : undefined}>
          {draft.sentence}
        </Notice>
      ) : null}
      {read.sentence ? <Notice tone="error">{read.sentence}</Notice> : null}
      {tool.kind === 'look' ? null : (
        <p className="mb-2 text-[0.93rem] text-soft">
          {tool.kind === 'region'
            ? 'Drag over a surface of its own: shiny metal, a label, tape. With keys: arrows, Enter for each corner.'
            : 'Press a place that you can also find on the map: a corner of a package, a screw.'}
        </p>
      )}
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
          const corner = map?.parts.find((part) => part.face === said.face);
          const old = said.references[tool.index];
          const point = {
            row,
            column,
            xMm: old?.xMm ?? (tool.index === 0 ? (corner?.xMm ?? 0) : (map?.widthMm ?? 10)),
            yMm: old?.yMm ?? (tool.index === 0 ? (corner?.yMm ?? 0) : (map?.heightMm ?? 10)),
          };
          change({
            references:
              tool.index < said.references.length
                ? said.references.map((entry, i) => (i === tool.index ? point : entry))
                : [...said.references, point],
          });
          setTool({ kind: 'look' });
        }}
      />
      <div className="mt-5 grid gap-x-8 lg:grid-cols-2">
        <Section
          title="Hot spots"
          hint={read.registration ? 'proposed places for thermocouples' : 'lay the picture over the map to name the parts'}
        >
          {read.spots.length === 0 ? (
            <p className="text-soft">Nothing stands out by {said.minProminenceK} K. Lower the figure below, or look at the surfaces.</p>
          ) : null}
          <ol>
            {read.spots.map((spot, i) => {
              const proposal = proposals[i]!;
              return (
                <li
                  key={i}
                  className="grid grid-cols-[1.4rem_4.6rem_minmax(0,1fr)_auto] items-baseline gap-2 border-b border-rule py-1.5"
                  onPointerEnter={() => setShown(i)}
                  onPointerLeave={() => setShown(null)}
                >
                  <span className="text-soft">{i + 1}</span>
                  <b className="font-semibold">{fixed(spot.temperatureC, 1)} °C</b>
                  <span className="truncate">{proposal.name}</span>
                  {taken(proposal) ? (
                    <span className="text-[0.87rem] text-soft">is a spot</span>
                  ) : (
                    <button
                      type="button"
                      className="inline-flex items-center gap-1 underline hover:text-soft"
                      onClick={() => onAccept(proposal)}
                    >
                      <Plus size={13} aria-hidden /> Place a spot
                    </button>
                  )}
                </li>
              );
            })}
          </ol>
          <NumberField
            className="mt-3 w-48"
            label="Stands out by at least"
            unit="K"
            pointer="/minProminenceK"
            value={said.minProminenceK}
            onChange={(minProminenceK) => change({ minProminenceK })}
          />
        </Section>
        <Section title="Surfaces">
          <div className="grid grid-cols-3 gap-3">
            <NumberField
              label="Camera set to"
              pointer="/emissivitySet"
              value={said.emissivitySet}
              onChange={(emissivitySet) => change({ emissivitySet })}
            />
            <NumberField
              label="Emissivity"
              pointer="/emissivity"
              value={said.emissivity}
              onChange={(emissivity) => change({ emissivity })}
              hint="outside the regions"
            />
            <NumberField
              label="Reflected"
              unit="°C"
              pointer="/reflectedC"
              value={said.reflectedC}
              onChange={(reflectedC) => change({ reflectedC })}
            />
          </div>
          {said.regions.map((region, index) => (
            <div key={index} className="mt-2 grid grid-cols-[minmax(0,1fr)_5rem_6.4rem_2rem] items-end gap-3 border-t border-rule pt-2">
              <TextField
                label="Surface"
                pointer={`/regions/${index}/name`}
                value={region.name}
                onChange={(name) => setRegion(index, { name })}
              />
              <NumberField
                label="Emissivity"
                pointer={`/regions/${index}/emissivity`}
                value={region.emissivity}
                onChange={(emissivity) => setRegion(index, { emissivity })}
              />
              <NumberField
                label="Reflected"
                unit="°C"
                pointer={`/regions/${index}/reflectedC`}
                value={region.reflectedC}
                onChange={(value) => setRegion(index, { reflectedC: Number.isNaN(value) ? null : value })}
              />
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`Remove ${region.name}`}
                onClick={() => change({ regions: said.regions.filter((_, i) => i !== index) })}
              >
                <Trash2 size={15} aria-hidden />
              </Button>
              {region.emissivity < 0.6 ? (
                <p className="col-span-4 text-[0.87rem] text-ochre-text">Cannot be read; use matt tape or paint.</p>
              ) : null}
            </div>
          ))}
          <h2 className="mb-2 mt-5">On the map</h2>
          {map ? null : <p className="text-[0.93rem] text-soft">This part has no map yet: draw it at Board map first.</p>}
          {said.references.map((reference, index) => (
            <div key={index} className="mt-1 grid grid-cols-[6rem_1fr_1fr] items-end gap-3">
              <span className="pb-2 text-[0.93rem]">Reference {index === 0 ? 'A' : 'B'}</span>
              <NumberField
                label="From the left"
                unit="mm"
                pointer={`/references/${index}/xMm`}
                value={reference.xMm}
                onChange={(xMm) => setReference(index, { xMm })}
              />
              <NumberField
                label="From above"
                unit="mm"
                pointer={`/references/${index}/yMm`}
                value={reference.yMm}
                onChange={(yMm) => setReference(index, { yMm })}
              />
            </div>
          ))}
          {said.references.length < 2 ? (
            <p className="mt-1 text-[0.93rem] text-soft">Mark two places that you know in both, and say where they lie on the map.</p>
          ) : read.registration ? (
            <p className="mt-2 text-[0.93rem] text-soft">
              One cell covers {fixed(read.registration.mmPerCell, 2)} mm; the picture is turned by {fixed(read.registration.turnedDeg, 1)}°.
            </p>
          ) : (
            <p className="mt-2 text-[0.93rem] text-ember-text">The two references are one and the same place.</p>
          )}
          <label className="mt-2 flex items-center gap-2 text-[0.93rem]">
            <input type="checkbox" checked={said.mirrored} onChange={(event) => change({ mirrored: event.target.checked })} /> taken from
            behind: left and right are swapped
          </label>
        </Section>
      </div>
    </ProblemsContext.Provider>
  );
}
