import type { LinkChannel, LinkControl } from '@red-ember/contract';

/** Temperatures: key, label, node of the network it is meant for, the node beside it. */
export const REGULATOR_SENSORS = {
  tc1: { label: 'Thermocouple 1, stage of the side row', node: 'side', neighbour: 'sink' },
  tc2: { label: 'Thermocouple 2, stage of the upper row', node: 'upper', neighbour: 'sink' },
  tc3: { label: 'Thermocouple 3, inductor', node: 'inductors', neighbour: 'board' },
  tc4: { label: 'Thermocouple 4, underside', node: 'underside', neighbour: 'board' },
  stage3: { label: 'Thermocouple, stage 3', node: 'side', neighbour: 'sink' },
  water: { label: 'Thermocouple, water leaving the block', node: 'water', neighbour: 'room' },
} as const;

/** What the board's software shows, in whole degrees, each at some distance from the node it is named after. */
export const BOARD_SENSORS = {
  vrm: { label: "Board's own sensor", node: 'own', neighbour: 'board', offsetK: 0 },
  s01: { label: 'Board 01', node: 'side', neighbour: 'board', offsetK: -2 },
  s02: { label: 'Board 02', node: 'side', neighbour: 'board', offsetK: -1 },
  s03: { label: 'Board 03', node: 'side', neighbour: 'board', offsetK: -4 },
  s04: { label: 'Board 04', node: 'upper', neighbour: 'board', offsetK: -1 },
  s05: { label: 'Board 05', node: 'inductors', neighbour: 'board', offsetK: -2 },
  s06: { label: 'Board 06', node: 'inductors', neighbour: 'board', offsetK: -6 },
  s07: { label: 'Board 07', node: 'hub', neighbour: 'board', offsetK: 1 },
  s08: { label: 'Board 08', node: 'board', neighbour: 'sink', offsetK: 2 },
  s09: { label: 'Board 09', node: 'board', neighbour: 'hub', offsetK: -3 },
  s10: { label: 'Board 10', node: 'board', neighbour: 'room', offsetK: -9 },
  s11: { label: 'Board 11', node: 'board', neighbour: 'room', offsetK: -6 },
  s12: { label: 'Board 12', node: 'processor', neighbour: 'cooler', offsetK: 0 },
} as const;

/** What an infrared thermometer shows where it is pointed, by what the surface radiates, and a figure of the software that nobody has named. */
export const HAND_SENSORS = {
  top: { label: 'Infrared, sink top', node: 'fins', offsetK: 0, emissivity: 0.9 },
  base: { label: 'Infrared, sink base', node: 'sink', offsetK: 1, emissivity: 0.85 },
  inductor: { label: 'Infrared, inductor', node: 'inductors', offsetK: 0, emissivity: 0.92 },
  capacitor: { label: 'Infrared, capacitor', node: 'capacitors', offsetK: 0, emissivity: 0.9 },
  hub: { label: 'Infrared, hub chip', node: 'hub', offsetK: 0, emissivity: 0.93 },
  mos: { label: 'Software reading, unlabelled', node: 'own', offsetK: 2 },
} as const;

const temperature = (key: string, label: string, byHand = false): LinkChannel => ({
  key,
  label,
  quantity: 'temperature',
  unit: '°C',
  ...(byHand ? { byHand } : {}),
});

export const REGULATOR_CHANNELS: LinkChannel[] = [
  ...Object.entries({ ...REGULATOR_SENSORS, ...BOARD_SENSORS }).map(([key, { label }]) => temperature(key, label)),
  ...Object.entries(HAND_SENSORS).map(([key, { label }]) => temperature(key, label, true)),
  temperature('room', 'Room probe'),
  { key: 'throughput', label: 'Renders', quantity: 'throughput', unit: 'renders/h' },
  { key: 'utilisation', label: 'Time busy', quantity: 'utilisation', unit: '%' },
  { key: 'power', label: 'Processor power', quantity: 'power', unit: 'W' },
  { key: 'clock', label: 'Core clock', quantity: 'clock', unit: 'MHz' },
  { key: 'vcore', label: 'Voltage under load', quantity: 'voltage', unit: 'V' },
  { key: 'duty', label: 'Fan duty', quantity: 'duty', unit: '%' },
  { key: 'fan', label: 'Fan', quantity: 'rotation', unit: 'rpm' },
  { key: 'level', label: 'Sound level', quantity: 'level', unit: 'dB(A)' },
];

export const REGULATOR_CONTROLS: LinkControl[] = [
  { key: 'power-cap', label: 'Power cap', unit: 'W', usual: 165, least: 40, most: 220 },
  { key: 'fan-policy', label: 'Fan', unit: '', usual: 'locked', choices: ['locked', 'by processor', 'by board'] },
  { key: 'fan-duty', label: 'Fan duty when locked', unit: '%', usual: 60, least: 0, most: 100 },
];
