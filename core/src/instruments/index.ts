export { agreement, pairedDifferences, type Agreement } from './agreement.ts';
export { boilingPoint, pressureAtAltitude } from './boilingPoint.ts';
export { calibrate, correctSeries, type Calibration } from './calibrate.ts';
export { calibrationDoubt, rectangularHalfWidth } from './calibrationDoubt.ts';
export {
  channelBudget,
  type BudgetInput,
  type BudgetLine,
  type ChannelBudget,
  type ReadingUse,
  type SensorDoubt,
} from './channelBudget.ts';
export { READ_AS_KEYS, readAs, type ReadAs } from './readAs.ts';
export {
  accuracyHalfWidth,
  THERMOCOUPLE_TYPES,
  thermocoupleTolerance,
  type StatedAccuracy,
  type ThermocoupleType,
} from './statedAccuracy.ts';
export { TRUSTWORTHY_EMISSIVITY, trueSurfaceTemperature } from './trueSurfaceTemperature.ts';
