export { keepUnits } from './keepUnits.ts';
export { plainNumber } from './plainNumber.ts';
export { clock, decimalsFor, duration, fixed, measured, signed } from './measured.ts';
export { asFileName, capital, counted, mountsInWords, headroomWords, listWords, midSentence } from './words.ts';
export { toCelsius, type TemperatureUnit } from './temperature.ts';
export { inDegrees, namesWithDegrees, shownStep, shownTemperature, textsIn, type Degrees } from './degrees.ts';
