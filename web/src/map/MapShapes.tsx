import type { DOMAttributes, KeyboardEvent, ReactNode } from 'react';
import type { Coverage, Face, Rect } from '@red-ember/core';
import type { BoardMapBody, SpotBody } from '@red-ember/contract';
import type { Picked } from './edits.ts';

/** What makes a thing on the map one that is picked, dragged and moved by keys. */
export interface Grip extends DOMAttributes<SVGElement> {
  role: string;
  tabIndex: number;
  'aria-label': string;
  'aria-pressed': boolean;
  className: string;
  onFocus: () => void;
  onPointerDownCapture: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** What every kind of thing needs to be drawn: the map and its face, a length on screen in mm, and its grip. */
export interface Drawing {
  map: BoardMapBody;
  face: Face;
  scale: number;
  isPicked: (list: Picked['list'], id: string) => boolean;
  grip: (list: Picked['list'], id: string, name: string) => Grip;
}

// A figure that is half typed is drawn as nothing, until it is a number again.
const drawn = (value: number) => (value >= 0 ? value : 0);
const frame = (rect: Rect) => ({
  x: Number.isFinite(rect.xMm) ? rect.xMm : 0,
  y: Number.isFinite(rect.yMm) ? rect.yMm : 0,
  width: drawn(rect.widthMm),
  height: drawn(rect.heightMm),
});

/** The name of a part, where it has room for it. */
function Label({ rect, text, scale }: { rect: Rect; text: string; scale: number }) {
  if (text.length * 6 >= rect.widthMm * scale || rect.heightMm * scale <= 14) return null;
  return (
    <text x={frame(rect).x + 4 / scale} y={frame(rect).y + 13 / scale} fontSize={11 / scale} fill="var(--ink)" pointerEvents="none">
      {text}
    </text>
  );
}

export function Board({ map, scale }: Drawing) {
  return (
    <>
      <defs>
        <pattern id="covered" width={7 / scale} height={7 / scale} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2={7 / scale} stroke="var(--quench)" strokeWidth={1.4 / scale} strokeOpacity="0.55" />
        </pattern>
      </defs>
      <rect
        x={0}
        y={0}
        width={map.widthMm}
        height={map.heightMm}
        rx={3 / scale}
        fill="var(--shade)"
        stroke="var(--stone)"
        strokeWidth={1 / scale}
      />
    </>
  );
}

/** Parts, the darker the more heat leaves a square centimetre of them. */
export function Parts({ map, face, scale, isPicked, grip, coverage }: Drawing & { coverage: Coverage }) {
  const hottest = Math.max(1e-9, ...coverage.parts.map((part) => part.fluxWPerCm2));
  return map.parts
    .filter((part) => part.face === face)
    .map((part) => {
      const heat = coverage.parts.find((entry) => entry.partId === part.id);
      const tint = heat ? 0.08 + 0.72 * drawn(heat.fluxWPerCm2 / hottest) : 0.08;
      const on = isPicked('parts', part.id);
      return (
        <g key={part.id} {...grip('parts', part.id, `Part ${part.name}`)}>
          <title>{part.name}</title>
          <rect {...frame(part)} fill="var(--lift)" />
          <rect
            {...frame(part)}
            fill="var(--ember)"
            fillOpacity={tint}
            stroke={on ? 'var(--ember)' : 'var(--ink)'}
            strokeWidth={(on ? 2.5 : 1) / scale}
          />
          <Label rect={part} text={part.name} scale={scale} />
        </g>
      );
    });
}

/** Pads under the covers of this face, hatched. */
export function Pads({ map, face, scale, isPicked, grip }: Drawing) {
  return map.pads
    .filter((pad) => map.covers.find((cover) => cover.id === pad.coverId)?.face === face)
    .map((pad) => {
      const on = isPicked('pads', pad.id);
      return (
        <g key={pad.id} {...grip('pads', pad.id, `Pad ${pad.name}`)} pointerEvents={on ? undefined : 'none'}>
          <title>{pad.name}</title>
          <rect {...frame(pad)} fill="url(#covered)" stroke={on ? 'var(--ember)' : 'none'} strokeWidth={2.5 / scale} />
        </g>
      );
    });
}

/** The rim of something that lies over parts, taken by its line so that what is beneath can be taken too. */
function Rim({
  rect,
  title,
  on,
  plain,
  widths,
  dashes,
  scale,
  grip,
}: {
  rect: Rect;
  title: string;
  on: boolean;
  plain: string;
  widths: [number, number];
  dashes: [number, number];
  scale: number;
  grip: Grip;
}): ReactNode {
  return (
    <g {...grip} pointerEvents="stroke">
      <title>{title}</title>
      <rect
        {...frame(rect)}
        fill="none"
        stroke={on ? 'var(--ember)' : plain}
        strokeWidth={widths[on ? 1 : 0] / scale}
        strokeDasharray={dashes.map((dash) => dash / scale).join(' ')}
      />
    </g>
  );
}

export function Covers({ map, face, scale, isPicked, grip }: Drawing) {
  return map.covers
    .filter((cover) => cover.face === face)
    .map((cover) => (
      <Rim
        key={cover.id}
        rect={cover}
        title={cover.name}
        on={isPicked('covers', cover.id)}
        plain="var(--quench)"
        widths={[2.5, 3]}
        dashes={[8, 4]}
        scale={scale}
        grip={grip('covers', cover.id, `Cover ${cover.name}`)}
      />
    ));
}

export function Zones({ map, face, scale, isPicked, grip }: Drawing) {
  return (map.zones ?? [])
    .filter((zone) => zone.face === face)
    .map((zone) => (
      <Rim
        key={zone.id}
        rect={zone}
        title={`${zone.name}: ${zone.clearMm} mm free`}
        on={isPicked('zones', zone.id)}
        plain="var(--stone)"
        widths={[2, 3]}
        dashes={[2, 5]}
        scale={scale}
        grip={grip('zones', zone.id, `Zone ${zone.name}`)}
      />
    ));
}

export function Screws({ map, face, scale, isPicked, grip }: Drawing) {
  const px = (n: number) => n / scale;
  return (map.screws ?? [])
    .filter((screw) => map.covers.find((cover) => cover.id === screw.coverId)?.face === face && Number.isFinite(screw.xMm + screw.yMm))
    .map((screw) => {
      const on = isPicked('screws', screw.id);
      return (
        <g key={screw.id} {...grip('screws', screw.id, `Screw ${screw.name}`)}>
          <title>{screw.name}</title>
          <circle
            cx={screw.xMm}
            cy={screw.yMm}
            r={px(6)}
            fill="var(--lift)"
            stroke={on ? 'var(--ember)' : 'var(--ink)'}
            strokeWidth={px(on ? 2.5 : 1.5)}
          />
          <path
            d={`M${screw.xMm - px(3)} ${screw.yMm}h${px(6)}M${screw.xMm} ${screw.yMm - px(3)}v${px(6)}`}
            stroke="var(--ink)"
            strokeWidth={px(1.5)}
          />
        </g>
      );
    });
}

/** Spots by their numbers in the list beside the map. */
export function SpotMarks({ map, face, scale, isPicked, grip, spots }: Drawing & { spots: SpotBody[] }) {
  const px = (n: number) => n / scale;
  return map.placements
    .filter((placement) => placement.face === face && Number.isFinite(placement.xMm + placement.yMm))
    .map(({ spotId, xMm, yMm }) => {
      const at = spots.findIndex((spot) => spot.id === spotId);
      const name = spots[at]?.name;
      return (
        <g key={spotId} {...grip('placements', spotId, `Spot ${name ?? ''}`)}>
          <title>{name}</title>
          <circle
            cx={xMm}
            cy={yMm}
            r={px(9)}
            fill={isPicked('placements', spotId) ? 'var(--ember)' : 'var(--ink)'}
            stroke="var(--lift)"
            strokeWidth={px(1.5)}
          />
          <text x={xMm} y={yMm + px(4)} fontSize={px(11)} fontWeight={600} textAnchor="middle" fill="var(--paper)" pointerEvents="none">
            {at + 1}
          </text>
        </g>
      );
    });
}
