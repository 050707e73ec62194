import type { LinkChannel, LinkControl } from '@red-ember/contract';

export const CARD_CHANNELS: LinkChannel[] = [
  { key: 'die', label: 'Graphics chip, its own sensor', quantity: 'temperature', unit: '°C' },
  { key: 'hot', label: 'Graphics chip, hottest place', quantity: 'temperature', unit: '°C' },
  { key: 'mem', label: 'Memory, its own sensor', quantity: 'temperature', unit: '°C' },
  { key: 'stages', label: 'Thermocouple, power stages', quantity: 'temperature', unit: '°C' },
  { key: 'sink', label: 'Thermocouple, sink', quantity: 'temperature', unit: '°C' },
  { key: 'intake', label: 'Thermocouple, air before the fans', quantity: 'temperature', unit: '°C' },
  { key: 'exhaust', label: 'Thermocouple, air that leaves the cooler', quantity: 'temperature', unit: '°C' },
  { key: 'processor', label: 'Processor, its own sensor', quantity: 'temperature', unit: '°C' },
  { key: 'room', label: 'Room probe', quantity: 'temperature', unit: '°C' },
  { key: 'throughput', label: 'Frames drawn', quantity: 'throughput', unit: 'frames/s' },
  { key: 'utilisation', label: 'Time busy', quantity: 'utilisation', unit: '%' },
  { key: 'power', label: 'Card power', quantity: 'power', unit: 'W' },
  { key: 'wall', label: 'Power at the socket', quantity: 'power', unit: 'W' },
  { key: 'neighbour', label: 'Processor power', quantity: 'power', unit: 'W' },
  { key: 'clock', label: 'Core clock', quantity: 'clock', unit: 'MHz' },
  { key: 'duty', label: 'Fan duty', quantity: 'duty', unit: '%' },
  { key: 'fan', label: 'Fan 1', quantity: 'rotation', unit: 'rpm' },
  { key: 'fan2', label: 'Fan 2', quantity: 'rotation', unit: 'rpm' },
  { key: 'pump', label: 'Pump of the loop, nothing where there is none', quantity: 'rotation', unit: 'rpm' },
  { key: 'level', label: 'Sound level', quantity: 'level', unit: 'dB(A)' },
];

export const CARD_CONTROLS: LinkControl[] = [
  { key: 'fan-mode', label: 'Card fans', unit: '', usual: 'automatic', choices: ['automatic', 'locked'] },
  { key: 'fan-duty', label: 'Fan duty when locked', unit: '%', usual: 60, least: 20, most: 100 },
  { key: 'fan2-duty', label: 'Fan 2, 0 for as fan 1', unit: '%', usual: 0, least: 0, most: 100 },
  { key: 'pump-follows', label: 'Pump follows', unit: '', usual: 'chip', choices: ['chip', 'board'] },
  { key: 'power-limit', label: 'Power limit', unit: 'W', usual: 235, least: 120, most: 300 },
  { key: 'core-voltage', label: 'Core voltage', unit: 'mV', usual: 1050, least: 880, most: 1080 },
  { key: 'processor-load', label: 'Processor load', unit: 'W', usual: 65, least: 0, most: 165 },
  { key: 'case-fans', label: 'Case fans', unit: '%', usual: 60, least: 0, most: 100 },
  { key: 'vent', label: 'Case vent', unit: '', usual: 'open', choices: ['open', 'blocked'] },
  { key: 'side-panel', label: 'Side panel', unit: '', usual: 'on', choices: ['on', 'off'] },
  { key: 'front-panel', label: 'Front panel', unit: '', usual: 'on', choices: ['on', 'off'] },
];
