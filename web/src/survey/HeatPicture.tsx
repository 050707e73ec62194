import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { fixed } from '@red-ember/core';
import type { BoardMapBody, SurveyBody, SurveyRegionBody } from '@red-ember/contract';
import { contourLines, type ReadPicture } from './picture.ts';

const WIDTH_PX = 815;
const MOST_PX = 400;

/** What the next press on the picture means. */
export type Tool = { kind: 'look' } | { kind: 'region' } | { kind: 'reference'; index: 0 | 1 };

interface Props {
  read: ReadPicture;
  said: SurveyBody;
  map: BoardMapBody | null;
  tool: Tool;
  shownSpot: number | null;
  onRegion: (region: Pick<SurveyRegionBody, 'fromRow' | 'toRow' | 'fromColumn' | 'toColumn'>) => void;
  onReference: (row: number, column: number) => void;
}

function hexOf(name: string): [number, number, number] {
  const hex = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  return [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as [number, number, number];
}

/** One hue from dark to light, in two straight steps. */
function paint(canvas: HTMLCanvasElement, { corrected, minC, maxC }: ReadPicture): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const [rows, columns] = [corrected.valuesC.length, corrected.valuesC[0]!.length];
  const stops = ['--heat-low', '--heat-mid', '--heat-high'].map(hexOf);
  const image = context.createImageData(columns, rows);
  corrected.valuesC.forEach((row, r) =>
    row.forEach((value, c) => {
      const share = Number.isNaN(value) || maxC <= minC ? 0 : (value - minC) / (maxC - minC);
      const [from, to] = share < 0.5 ? [stops[0]!, stops[1]!] : [stops[1]!, stops[2]!];
      const within = share < 0.5 ? share * 2 : share * 2 - 1;
      for (let k = 0; k < 3; k++) image.data[4 * (r * columns + c) + k] = from[k]! + within * (to[k]! - from[k]!);
      image.data[4 * (r * columns + c) + 3] = 255;
    }),
  );
  context.putImageData(image, 0, 0);
}

/** The camera's picture, corrected: contours with their temperatures, hot spots, what cannot be read, and the map laid over it. */
export function HeatPicture({ read, said, map, tool, shownSpot, onRegion, onReference }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [cursor, setCursor] = useState<{ row: number; column: number } | null>(null);
  const [from, setFrom] = useState<{ row: number; column: number } | null>(null);
  const [rows, columns] = [read.corrected.valuesC.length, read.corrected.valuesC[0]!.length];
  const scale = Math.min(WIDTH_PX / columns, MOST_PX / rows);
  const px = (n: number) => n / scale;
  useEffect(() => {
    if (canvas.current) paint(canvas.current, read);
  }, [read]);

  const cellOf = (event: PointerEvent) => {
    const area = box.current!.getBoundingClientRect();
    const hold = (value: number, most: number) => Math.min(most - 1, Math.max(0, Math.floor(value)));
    return {
      row: hold(((event.clientY - area.top) / area.height) * rows, rows),
      column: hold(((event.clientX - area.left) / area.width) * columns, columns),
    };
  };
  const press = (cell: { row: number; column: number }) => {
    if (tool.kind === 'reference') onReference(cell.row, cell.column);
    else if (tool.kind === 'region' && from) {
      onRegion({
        fromRow: Math.min(from.row, cell.row),
        toRow: Math.max(from.row, cell.row),
        fromColumn: Math.min(from.column, cell.column),
        toColumn: Math.max(from.column, cell.column),
      });
      setFrom(null);
    } else if (tool.kind === 'region') setFrom(cell);
  };
  // The arrow keys move a cursor over the picture, Enter presses: whatever a pointer can do here, keys can.
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 5 : 1;
    const by = { ArrowLeft: [0, -step], ArrowRight: [0, step], ArrowUp: [-step, 0], ArrowDown: [step, 0] }[event.key];
    const at = cursor ?? { row: Math.floor(rows / 2), column: Math.floor(columns / 2) };
    if (by) {
      event.preventDefault();
      setCursor({ row: Math.min(rows - 1, Math.max(0, at.row + by[0]!)), column: Math.min(columns - 1, Math.max(0, at.column + by[1]!)) });
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      press(at);
    }
  };
  const value = cursor && read.corrected.valuesC[cursor.row]?.[cursor.column];
  const { registration } = read;
  const contours = useMemo(() => contourLines(read, said.references), [read, said.references]);
  const corners = (xMm: number, yMm: number, widthMm: number, heightMm: number) =>
    [
      [xMm, yMm],
      [xMm + widthMm, yMm],
      [xMm + widthMm, yMm + heightMm],
      [xMm, yMm + heightMm],
    ]
      .map(([x, y]) => registration!.toPicture(x!, y!))
      .map(({ row, column }) => `${column + 0.5},${row + 0.5}`)
      .join(' ');

  return (
    <figure>
      <div
        ref={box}
        tabIndex={0}
        role="application"
        aria-label="Camera picture. Arrow keys move over it, Enter presses."
        className={`relative touch-none ${tool.kind === 'look' ? 'cursor-crosshair' : 'cursor-cell'}`}
        style={{ width: columns * scale, maxWidth: '100%', aspectRatio: `${columns} / ${rows}` }}
        onPointerMove={(event) => setCursor(cellOf(event))}
        onPointerLeave={() => setCursor(null)}
        onPointerDown={(event) => {
          const cell = cellOf(event);
          if (tool.kind === 'region') setFrom(cell);
          else press(cell);
        }}
        onPointerUp={(event) => {
          if (tool.kind === 'region' && from) press(cellOf(event));
        }}
        onKeyDown={onKey}
      >
        <canvas
          ref={canvas}
          width={columns}
          height={rows}
          className="absolute inset-0 h-full w-full [image-rendering:pixelated]"
          aria-hidden
        />
        <svg viewBox={`0 0 ${columns} ${rows}`} className="absolute inset-0 h-full w-full" aria-hidden>
          <defs>
            <pattern id="unreadable" width={px(9)} height={px(9)} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width={px(9)} height={px(9)} fill="var(--margin)" />
              <line x1="0" y1="0" x2="0" y2={px(9)} stroke="var(--ink)" strokeWidth={px(3)} />
            </pattern>
          </defs>
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
                  {line.levelC} °C
                </text>
              ) : null}
            </g>
          ))}
          {said.regions.map((region, i) => {
            const area = {
              x: region.fromColumn,
              y: region.fromRow,
              width: region.toColumn - region.fromColumn + 1,
              height: region.toRow - region.fromRow + 1,
            };
            const unreadable = region.emissivity < 0.6;
            return (
              <g key={i}>
                <rect
                  {...area}
                  fill={unreadable ? 'url(#unreadable)' : 'none'}
                  fillOpacity={0.85}
                  stroke="var(--heat-high)"
                  strokeWidth={px(1.5)}
                  strokeDasharray={`${px(5)} ${px(3)}`}
                />
              </g>
            );
          })}
          {registration && map
            ? map.parts
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
                ))
            : null}
          {registration && map ? (
            <polygon points={corners(0, 0, map.widthMm, map.heightMm)} fill="none" stroke="var(--heat-high)" strokeWidth={px(2)} />
          ) : null}
          {from && cursor ? (
            <rect
              x={Math.min(from.column, cursor.column)}
              y={Math.min(from.row, cursor.row)}
              width={Math.abs(from.column - cursor.column) + 1}
              height={Math.abs(from.row - cursor.row) + 1}
              fill="var(--heat-high)"
              fillOpacity="0.25"
              stroke="var(--heat-high)"
              strokeWidth={px(2)}
            />
          ) : null}
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
          {read.spots.map((spot, i) => (
            <g key={i}>
              <circle
                cx={spot.column + 0.5}
                cy={spot.row + 0.5}
                r={px(shownSpot === i ? 13 : 9)}
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
        </svg>
      </div>
      <figcaption className="mt-1 flex flex-wrap justify-between gap-x-6 text-[0.87rem] text-soft">
        <span role="status">
          {cursor && value !== undefined && value !== null
            ? Number.isNaN(value)
              ? `row ${cursor.row + 1}, column ${cursor.column + 1}: cannot be read`
              : `row ${cursor.row + 1}, column ${cursor.column + 1}: ${fixed(value, 1)} °C`
            : `${columns} × ${rows} cells, ${fixed(read.minC, 1)} to ${fixed(read.maxC, 1)} °C`}
        </span>
        <span>{said.regions.some((region) => region.emissivity < 0.6) ? 'Hatched: cannot be read; use matt tape.' : ''}</span>
      </figcaption>
    </figure>
  );
}
