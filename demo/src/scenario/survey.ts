import { type SurveyBody } from '@red-ember/contract';
import { startMap } from '@red-ember/study';
import { DriveBench } from '@red-ember/rig';

/** Cells of the picture for a millimetre of the drive, and the rim of main board seen around it. */
const CELLS_PER_MM = 1.4;
const RIM_MM = 4;

/**
 * What a camera sees of the bare drive after half an hour of writing: the simulated part's own temperatures, smeared as copper
 * smears them. The metal ring of the stand-off is shiny and mirrors the room.
 */
export function bareSurvey(): { body: SurveyBody; matrix: number[][] } {
  const bench = new DriveBench({ setup: 'bare', seed: 41, mountSeed: 42, room: { startC: 22.4, driftKPerH: 0, wanderK: 0 } });
  for (let s = 0; s < 1800; s++) bench.step(1, 100);
  const { controller, flashTop, board, room } = bench.truth as Record<'controller' | 'flashTop' | 'board' | 'room', number>;
  const map = startMap('m2-2280-two');
  const [rows, columns] = [map.heightMm + 2 * RIM_MM, map.widthMm + 2 * RIM_MM].map((mm) => Math.round(mm * CELLS_PER_MM)) as [
    number,
    number,
  ];
  const inside = (v: number, from: number, size: number) =>
    1 / (1 + Math.exp(-(v - from) / 0.9)) - 1 / (1 + Math.exp(-(v - from - size) / 0.9));
  const matrix = Array.from({ length: rows }, (_, r) =>
    Array.from({ length: columns }, (_, c) => {
      const [x, y] = [c / CELLS_PER_MM - RIM_MM, r / CELLS_PER_MM - RIM_MM];
      const on = inside(x, 0, map.widthMm) * inside(y, 0, map.heightMm);
      // The board's surface cools away from the controller, further than its mean temperature tells.
      const away = Math.hypot(x - 19, y - 11);
      let t = room + 3 + (board - room - 3) * on * (0.72 + 0.28 * Math.exp(-away / 14));
      for (const part of map.parts.filter((candidate) => candidate.face === 'top')) {
        const own = part.componentClass === 'drive controller' ? controller : flashTop;
        const dome =
          1 - 0.06 * (((x - part.xMm - part.widthMm / 2) / part.widthMm) ** 2 + ((y - part.yMm - part.heightMm / 2) / part.heightMm) ** 2);
        t += (room + (own - room) * dome - t) * inside(x, part.xMm, part.widthMm) * inside(y, part.yMm, part.heightMm);
      }
      const ring = Math.hypot(x - map.widthMm, y - map.heightMm / 2) < 3.5;
      return Math.round((ring ? room + 0.15 * (t - room) + 1.5 * Math.sin(r) : t + 0.15 * Math.sin(7 * r + 3 * c)) * 10) / 10;
    }),
  );
  const at = (xMm: number, yMm: number) => ({
    row: Math.round((yMm + RIM_MM) * CELLS_PER_MM),
    column: Math.round((xMm + RIM_MM) * CELLS_PER_MM),
    xMm,
    yMm,
  });
  return {
    matrix,
    body: {
      name: 'Bare drive, 30 min of writing',
      subjectId: 'thistle-4t',
      face: 'top',
      emissivitySet: 0.95,
      emissivity: 0.93,
      reflectedC: 22,
      minProminenceK: 3,
      regions: [
        {
          name: 'stand-off ring',
          fromRow: at(0, 7).row,
          toRow: at(0, 15).row,
          fromColumn: at(76, 0).column,
          toColumn: columns - 1,
          emissivity: 0.15,
          reflectedC: null,
        },
      ],
      references: [at(12, 4), at(76, 19)],
      mirrored: false,
    },
  };
}
