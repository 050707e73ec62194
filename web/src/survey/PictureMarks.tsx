import { useMemo } from 'react';
import type { BoardMapBody, SurveyBody } from '@red-ember/contract';
import { contourLines, type ReadPicture } from './picture.ts';
import { Shown } from '../ui/Shown.tsx';

/** What is drawn over a camera's picture, in cells of it; `px` turns a length on screen into cells. */
interface Over {
  px: (n: number) => number;
}

export interface Cell {
  row: number;
  column: number;
}

/** Below it a surface mirrors its surroundings more than it shows itself. */
const LEAST_EMISSIVITY = 0.6;
export const cannotBeRead = (region: SurveyBody['regions'][number]): boolean => region.emissivity < LEAST_EMISSIVITY;

export function Contours({ px, read, said }: Over & { read: ReadPicture; said: SurveyBody }) {
  const contours = useMemo(() => contourLines(read, said.references), [read, said.references]);
  const columns = read.corrected.valuesC[0]!.length;
  return (
    <>
      {contours.map((line) => (
        <g key={line.levelC}>
          <path d={line.path} fill="none" stroke="var(--heat-high)" strokeOpacity="0.75" strokeWidth={px(1)} />
          {line.label ? (
            <text
              x={Math.min(columns - px(34), Math.max(px(4), line.label.column))}
              y={Math.max(px(12), line.label.row + px(4))}
              fontSize={px(12)}
              fontWeight={600}
              fill="var(--heat-high)"
              stroke="var(--heat-low)"
              strokeWidth={px(3)}
              paintOrder="stroke"
            >
              <Shown>{line.levelC} °C</Shown>
            </text>
          ) : null}
        </g>
      ))}
    </>
  );
}

/** Surfaces of their own emissivity; hatched where they cannot be read. */
export function Regions({ px, said }: Over & { said: SurveyBody }) {
  return (
    <>
      <defs>
        <pattern id="unreadable" width={px(9)} height={px(9)} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width={px(9)} height={px(9)} fill="var(--margin)" />
          <line x1="0" y1="0" x2="0" y2={px(9)} stroke="var(--ink)" strokeWidth={px(3)} />
        </pattern>
      </defs>
      {said.regions.map((region, i) => {
        const area = {
          x: region.fromColumn,
          y: region.fromRow,
          width: region.toColumn - region.fromColumn + 1,
          height: region.toRow - region.fromRow + 1,
        };
        return (
          <g key={i}>
            <rect
              {...area}
              fill={cannotBeRead(region) ? 'url(#unreadable)' : 'none'}
              fillOpacity={0.85}
              stroke="var(--heat-high)"
              strokeWidth={px(1.5)}
              strokeDasharray={`${px(5)} ${px(3)}`}
            />
          </g>
        );
      })}
    </>
  );
}

/** The board and its parts of this face, laid over the picture by the two points that both know. */
export function MapOver({ px, read, said, map }: Over & { read: ReadPicture; said: SurveyBody; map: BoardMapBody | null }) {
  const { registration } = read;
  if (!registration || !map) return null;
  const corners = (xMm: number, yMm: number, widthMm: number, heightMm: number) =>
    [
      [xMm, yMm],
      [xMm + widthMm, yMm],
      [xMm + widthMm, yMm + heightMm],
      [xMm, yMm + heightMm],
    ]
      .map(([x, y]) => registration.toPicture(x!, y!))
      .map(({ row, column }) => `${column + 0.5},${row + 0.5}`)
      .join(' ');

  return (
    <>
      {map.parts
        .filter((part) => part.face === said.face)
        .map((part) => (
          <polygon
            key={part.id}
            points={corners(part.xMm, part.yMm, part.widthMm, part.heightMm)}
            fill="none"
            stroke="var(--heat-high)"
            strokeWidth={px(1.5)}
            strokeDasharray={`${px(2)} ${px(3)}`}
          />
        ))}
      <polygon points={corners(0, 0, map.widthMm, map.heightMm)} fill="none" stroke="var(--heat-high)" strokeWidth={px(2)} />
    </>
  );
}

/** The region that is being drawn. */
export function Stretched({ px, from, to }: Over & { from: Cell; to: Cell }) {
  return (
    <rect
      x={Math.min(from.column, to.column)}
      y={Math.min(from.row, to.row)}
      width={Math.abs(from.column - to.column) + 1}
      height={Math.abs(from.row - to.row) + 1}
      fill="var(--heat-high)"
      fillOpacity="0.25"
      stroke="var(--heat-high)"
      strokeWidth={px(2)}
    />
  );
}

export function References({ px, said }: Over & { said: SurveyBody }) {
  return (
    <>
      {said.references.map((point, i) => (
        <g key={i} stroke="var(--heat-high)" strokeWidth={px(2)}>
          <path
            d={`M${point.column + 0.5 - px(9)},${point.row + 0.5}h${px(18)}M${point.column + 0.5},${point.row + 0.5 - px(9)}v${px(18)}`}
          />
          <text
            x={point.column + px(10)}
            y={point.row - px(4)}
            fontSize={px(13)}
            fontWeight={700}
            fill="var(--heat-high)"
            stroke="var(--heat-low)"
            strokeWidth={px(3)}
            paintOrder="stroke"
          >
            {i === 0 ? 'A' : 'B'}
          </text>
        </g>
      ))}
    </>
  );
}

export function HotSpotMarks({ px, read, shown }: Over & { read: ReadPicture; shown: number | null }) {
  return (
    <>
      {read.spots.map((spot, i) => (
        <g key={i}>
          <circle
            cx={spot.column + 0.5}
            cy={spot.row + 0.5}
            r={px(shown === i ? 13 : 9)}
            fill="var(--heat-high)"
            stroke="var(--heat-low)"
            strokeWidth={px(1.5)}
          />
          <text
            x={spot.column + 0.5}
            y={spot.row + 0.5 + px(4)}
            fontSize={px(11)}
            fontWeight={700}
            textAnchor="middle"
            fill="var(--heat-low)"
          >
            {i + 1}
          </text>
        </g>
      ))}
    </>
  );
}
