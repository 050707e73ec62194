/** Ids are text; the server makes UUIDs of version 7, which sort by time. Clients may make ids for the parts of a study. */
export const ID_PATTERN = /^[A-Za-z0-9-]{1,64}$/;

export const FAMILIES = ['drive', 'card', 'regulator'] as const;
export type Family = (typeof FAMILIES)[number];

/** In which the work of a part is counted, as the benches send it. */
export const THROUGHPUT_UNITS: Record<Family, string> = { drive: 'MB/s', card: 'frames/s', regulator: 'renders/h' };

export const FAMILY_NAMES: Record<Family, string> = { drive: 'M.2 drive', card: 'Graphics card', regulator: 'Voltage regulator' };

export const COMPONENT_CLASSES = [
  'graphics core',
  'hot spot',
  'memory',
  'power stage',
  'inductor',
  'capacitor',
  'hub chip',
  'drive controller',
  'flash',
  'drive sensor',
  'board',
  'processor',
  'coolant',
  'touchable metal',
] as const;
export type ComponentClass = (typeof COMPONENT_CLASSES)[number];

/** No component of these families is meant to be hotter, °C: a limit above it is more likely in Fahrenheit. */
export const LIMIT_SUSPECT_C = 150;
