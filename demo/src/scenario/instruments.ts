import { boilingPoint } from '@red-ember/core';
import type { CalibrationBody, InstrumentBody, InstrumentChannelBody } from '@red-ember/contract';

const wire = (id: string, name: string, place: string): InstrumentChannelBody => ({
  id,
  name,
  quantity: 'temperature',
  percentOfReading: 0.05,
  fixed: 0.3,
  thermocouple: { type: 'T', toleranceClass: 1 },
  resolution: 0.1,
  lagS: 3,
  drift: 0.1,
  place,
});

const LOGGER: InstrumentBody = {
  name: 'Logger LH-8',
  kind: 'thermocouple logger',
  serial: 'LH8-0417',
  notes: 'Eight inputs, fine type T wire, welded tips.',
  channels: [
    ...[1, 2, 3, 4].map((n) => wire(`lh8-tc${n}`, `TC ${n}`, 'moves from part to part')),
    {
      ...wire('lh8-room', 'Room probe', '1 m beside the bench, in a shielded tube'),
      thermocouple: null,
      percentOfReading: 0,
      fixed: 0.3,
      lagS: 20,
      drift: 0.05,
    },
  ],
};

const CAMERA: InstrumentBody = {
  name: 'Infrared IR 2',
  kind: 'infrared',
  serial: 'IR2-30',
  notes: 'Spot size 6 mm at 60 mm. Matt tape on every place that is read.',
  channels: [
    {
      id: 'ir2-spot',
      name: 'Spot',
      quantity: 'temperature',
      percentOfReading: 1.5,
      fixed: 1,
      thermocouple: null,
      resolution: 0.1,
      lagS: 0.5,
      drift: 0.5,
      place: 'in the hand',
    },
  ],
};

export const INSTRUMENTS: { id: string; body: InstrumentBody }[] = [
  { id: 'demo-logger', body: LOGGER },
  { id: 'demo-infrared', body: CAMERA },
];

/** Boiling point of a February day with 981 hPa on the hill. */
const BOILING_C = Math.round(boilingPoint(981) * 100) / 100;

/** Ice, a water bath with a reference thermometer, boiling: two weeks before the first run. */
export const CALIBRATIONS: { instrumentId: string; body: CalibrationBody }[] = [
  ['lh8-tc1', 0.1, 60.0, -0.1],
  ['lh8-tc2', 0.0, 59.9, 0.0],
  ['lh8-tc3', 0.1, 59.9, 0.1],
  ['lh8-tc4', -0.2, 59.8, 0.2],
].map(([channelId, ice, bath, boil]) => ({
  instrumentId: 'demo-logger',
  body: {
    channelId: channelId as string,
    madeOn: '2026-02-12',
    dueOn: '2027-02-12',
    referenceAccuracyK: 0.15,
    points: [
      { indicatedC: ice as number, referenceC: 0, reference: 'ice point' },
      { indicatedC: bath as number, referenceC: 60, reference: 'water bath, reference thermometer' },
      { indicatedC: Math.round((BOILING_C + (boil as number)) * 10) / 10, referenceC: BOILING_C, reference: 'boiling point at 981 hPa' },
    ],
    note: '',
    applyToRuns: [],
  },
}));
