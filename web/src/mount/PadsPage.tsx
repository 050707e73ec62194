import { useState } from 'react';
import {
  fixed,
  padForAll,
  PAD_THICKNESSES_MM,
  pasteAlone,
  pasteLayer,
  unserved,
  type BoardMap,
  type PadAdvice,
  type PadChoice,
} from '@red-ember/core';
import type { BoardMapBody, FittedPartBody, MapCoverBody, Study } from '@red-ember/contract';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { ButtonLink } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { MountTabs } from './MountTabs.tsx';
import { inRanges } from '../parts/partWords.ts';
import { StackDrawing } from './StackDrawing.tsx';
import { Shown } from '../ui/Shown.tsx';

/** No pad bridges more. */
const MOST_GAP_MM = 4;

const CONTACTS: Record<PadChoice['worst'], string> = {
  good: 'well',
  light: 'lightly',
  'over-compressed': 'squeezed too far',
  none: 'not at all',
};

/** Which pad serves all, or why none does. */
function adviceSentence(advice: PadAdvice, nameOf: (id: string) => string): string {
  if (advice.best)
    return `${advice.best.padMm} mm serves every part under it: at worst ${fixed(advice.best.mostDropK!, 1)} K across the pad.`;
  if (!advice.split) {
    const lost = unserved(advice);
    const gaps = lost.map(({ gapMm }) => fixed(gapMm, 1));
    const depth = gaps[0] === gaps.at(-1) ? gaps[0] : `${gaps[0]} to ${gaps.at(-1)}`;
    return `No thickness touches ${inRanges(lost.map(({ part }) => part.name))} well: ${depth} mm below the face, with a tolerance that no pad takes up. Bring the face nearer, or split the sink.`;
  }
  const groups = advice.split.map(({ padMm, partIds }) => `${padMm} mm on ${inRanges(partIds.map(nameOf))}`);
  return `No single thickness serves all. Cut ${groups.join('; ')}, or split the sink.`;
}

function SinkSection({ map, cover }: { map: BoardMap; cover: MapCoverBody }) {
  const own = map.pads.filter((pad) => pad.coverId === cover.id);
  const conductivity = own[0]?.conductivityWPerMK ?? 6;
  const advice = padForAll(map, cover, conductivity);
  const [chosen, setChosen] = useState<number | null>(null);
  const nameOf = (id: string) => map.parts.find((part) => part.id === id)?.name ?? '';
  if (advice.choices.length === 0 && advice.collides.length === 0)
    return (
      <Section title={cover.name}>
        <p className="text-soft">It rests on its parts or lies over none: no pad is needed.</p>
      </Section>
    );
  if (own.length === 0 && pasteAlone(advice))
    return (
      <Section title={cover.name}>
        <p className="text-soft">
          It lies on with paste alone: gaps up to {fixed(Math.max(...advice.choices[0]!.parts.map((part) => part.gapMm)), 2)} mm are bond
          lines, no place for a pad.
        </p>
      </Section>
    );
  const shown =
    advice.choices.find((choice) => choice.padMm === chosen) ??
    advice.best ??
    advice.choices.find((choice) => choice.padMm === own[0]?.padMm) ??
    advice.choices[0];
  return (
    <Section title={cover.name} hint={`pad of ${conductivity} W/m·K`}>
      <p className="mb-3 text-[1.15rem]">
        <Shown>{adviceSentence(advice, nameOf)}</Shown>
      </p>
      {advice.collides.length > 0 ? (
        <Notice tone="error">Stands higher than the sink’s face: {inRanges(advice.collides.map((part) => part.name))}.</Notice>
      ) : null}
      {shown ? <StackDrawing cover={cover} choice={shown} /> : null}
      <div className="overflow-x-auto">
        <Shown>
          <table className="plain-table mt-2">
            <thead>
              <tr>
                <th>Thickness</th>
                <th>Touches at worst</th>
                <th className="num">squeezed by</th>
                <th className="num">most across the pad</th>
              </tr>
            </thead>
            <tbody>
              {advice.choices.map((choice) => {
                const squeezed = choice.parts.map(({ stack }) => stack.compression).filter((share) => share > 0);
                const range = [Math.min(...squeezed), Math.max(...squeezed)].map((share) => Math.round(100 * share));
                return (
                  <tr key={choice.padMm} className={choice === shown ? 'font-semibold' : ''}>
                    <td>
                      <button
                        type="button"
                        aria-pressed={choice === shown}
                        className="underline decoration-1 underline-offset-4 hover:text-soft"
                        onClick={() => setChosen(choice.padMm)}
                      >
                        {choice.padMm} mm
                      </button>
                      {choice === advice.best ? <span className="ml-2 text-quench-text">serves all</span> : null}
                      {own.some((pad) => pad.padMm === choice.padMm) ? <span className="ml-2 text-soft">on the map</span> : null}
                    </td>
                    <td>{CONTACTS[choice.worst]}</td>
                    <td className="num">
                      {squeezed.length === 0 ? '' : range[0] === range[1] ? `${range[0]} %` : `${range[0]} to ${range[1]} %`}
                    </td>
                    <td className="num">{choice.mostDropK === null ? 'one part bare' : `${fixed(choice.mostDropK, 1)} K`}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </Shown>
      </div>
    </Section>
  );
}

function PasteSection({ study }: { study: Study }) {
  const pastes = study.parts.filter(
    (part): part is FittedPartBody & { paste: NonNullable<FittedPartBody['paste']> } => part.paste !== null,
  );
  if (pastes.length === 0) return null;
  // Of the joint that tells pastes apart best, where several are known.
  const driven = pastes
    .map(({ paste }) => ({ ...paste, power: pasteLayer(paste).kelvinPerMm2KPerW ?? 0 }))
    .filter(({ power }) => power > 0)
    .sort((a, b) => b.power - a.power)[0];
  return (
    <Section
      title="Paste"
      hint={
        study.rules.paste === 'spread' ? 'spread over the whole bare die, by the house rules' : 'a dot under the lid, by the house rules'
      }
    >
      {driven ? (
        <Shown>
          <p className="mb-3">
            <b className="font-semibold">As a test of pastes:</b> {driven.heatW} W through {driven.areaMm2} mm². Two pastes that differ by 1
            mm²·K/W differ by {fixed(driven.power, 2)} K here; your {study.rules.practicalK} K is{' '}
            {fixed(study.rules.practicalK / driven.power, 1)} mm²·K/W.
          </p>
        </Shown>
      ) : (
        <p className="mb-3 text-soft">
          With the heat through the joint, written at Plan, Parts, this page says how well the part tells pastes apart.
        </p>
      )}
      <div className="overflow-x-auto">
        <Shown>
          <table className="plain-table">
            <thead>
              <tr>
                <th>Paste</th>
                <th className="num">area</th>
                <th className="num">bond line</th>
                <th className="num">put on</th>
                <th>taken off with</th>
                <th className="num">dries</th>
                <th>conducts</th>
              </tr>
            </thead>
            <tbody>
              {pastes.map((part) => {
                const { appliedMm3, appliedG } = pasteLayer(part.paste);
                return (
                  <tr key={part.id}>
                    <td>{part.name}</td>
                    <td className="num">{part.paste.areaMm2} mm²</td>
                    <td className="num">{part.paste.bondLineMm} mm</td>
                    <td className="num">
                      {fixed(appliedMm3, 0)} mm³, {fixed(appliedG, 2)} g
                    </td>
                    <td>{part.paste.remover}</td>
                    <td className="num">{part.paste.dryMin} min</td>
                    <td>{part.conductive ? <b className="font-semibold text-ember-text">yes: mask</b> : 'no'}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </Shown>
      </div>
    </Section>
  );
}

/** What lies between the parts and their sinks: the pad that serves all of them, and how much paste. */
export function PadsPage() {
  const study = useStudy();
  const maps = study.subjects.flatMap((subject) => (subject.map ? [{ subject, map: subject.map }] : []));
  // A cover far above its parts, without a pad of its own, is no sink.
  const meant = (map: BoardMapBody, cover: MapCoverBody) =>
    map.pads.some((pad) => pad.coverId === cover.id) ||
    cover.undersideMm <= MOST_GAP_MM + Math.max(0, ...map.parts.map((part) => part.tallMm));
  const sinks = maps.flatMap(({ subject, map }) =>
    map.covers.filter((cover) => meant(map, cover)).map((cover) => ({ subject, map, cover })),
  );
  return (
    <Sheet
      crumb={`${study.title} / Mount`}
      windowTitle={`Pads and paste, ${study.title}`}
      heading="Which pad, and how much paste?"
      under="Every part under a sink together, at both ends of the tolerance"
      margin={
        <>
          <MarginGroup title="Touching">
            <Note>
              A pad touches well between 10 and 40 % of compression. Less, and it lies on dry; more, and it presses on the board or the
              solder.
            </Note>
            <Note>Parts of uneven height under one sink are the commonest reason why one of them runs hot.</Note>
          </MarginGroup>
          <MarginGroup title="Amounts">
            <Note>
              Twice the settled layer is put on; the rest is pressed out at the edges. Bond lines and drying times are the maker’s or yours.
            </Note>
            <Note>Thicknesses offered: {PAD_THICKNESSES_MM.join(', ')} mm.</Note>
          </MarginGroup>
          <MarginGroup title="Cautions">
            <Note tone="caution">Solvents are flammable: ventilate, and keep them from hot parts and sparks.</Note>
            <Note tone="caution">Conductive pads and pastes short a powered board: mask, and check the mask.</Note>
          </MarginGroup>
        </>
      }
    >
      <MountTabs />
      {sinks.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to={`/studies/${study.id}/look/map`}>To the board map</ButtonLink>}>
          No cover lies on a board map yet. With heights of parts and the sink’s lower face, this page says which pad serves all of them.
        </Notice>
      ) : (
        sinks.map(({ subject, map, cover }) => (
          <div key={`${subject.id}/${cover.id}`}>
            {maps.length > 1 ? <p className="text-soft">{subject.name}</p> : null}
            <SinkSection map={map} cover={cover} />
          </div>
        ))
      )}
      <PasteSection study={study} />
    </Sheet>
  );
}
