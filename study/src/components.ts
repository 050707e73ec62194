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
  'heatsink',
  'touchable metal',
] as const;
export type ComponentClass = (typeof COMPONENT_CLASSES)[number];

/** No component of these families is meant to be hotter, °C: a limit above it is more likely in Fahrenheit. */
export const LIMIT_SUSPECT_C = 150;

/** Where a start value comes from until somebody replaces it. */
export const GENERAL_FIGURE = 'general figure';

/** What a class of component stands, °C, each value with its source. */
export interface LimitEntry {
  advisoryC: number | null;
  advisorySource: string;
  throttleC: number | null;
  throttleSource: string;
  neverExceedC: number;
  neverExceedSource: string;
}

/** General engineering figures, °C: advisory, throttle, never to be exceeded. Every one is marked as such. */
const START: Record<ComponentClass, [number | null, number | null, number]> = {
  'graphics core': [80, 84, 95],
  'hot spot': [95, 105, 110],
  memory: [90, 100, 105],
  'power stage': [100, 115, 125],
  inductor: [105, null, 125],
  capacitor: [85, null, 105],
  'hub chip': [80, null, 100],
  'drive controller': [80, 88, 95],
  flash: [70, null, 85],
  'drive sensor': [70, 78, 82],
  board: [90, null, 105],
  processor: [85, 95, 100],
  coolant: [45, null, 60],
  heatsink: [null, null, 110],
  'touchable metal': [48, null, 60],
};

/** The library as it ships. */
export function startLimits(): Record<ComponentClass, LimitEntry> {
  return Object.fromEntries(
    COMPONENT_CLASSES.map((name) => {
      const [advisoryC, throttleC, neverExceedC] = START[name];
      const source = name === 'touchable metal' ? 'burns on touch from 60 °C' : GENERAL_FIGURE;
      return [
        name,
        {
          advisoryC,
          advisorySource: advisoryC === null ? '' : source,
          throttleC,
          throttleSource: throttleC === null ? '' : source,
          neverExceedC,
          neverExceedSource: source,
        },
      ];
    }),
  ) as Record<ComponentClass, LimitEntry>;
}
