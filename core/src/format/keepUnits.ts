/** A blank at which no line ends. */
const TOGETHER = '\u00a0';
const UNITS = ['K/W', 'W/K', 'J/K', 'K', '°C', '°F', '%', 'W', 'V', 'A', 'min', 's', 'h', 'rpm', 'MHz', 'dB\\(A\\)', 'MB/s', 'mm', 'Hz'];
const NUMBER_AND_UNIT = new RegExp(`(?<=\\d) (?=(?:${UNITS.join('|')})(?![\\p{L}\\d/]))`, 'gu');
const DOUBT = /± (?=\d)/g;

/** A sentence whose numbers keep their units, and their doubts, on one line: a "K" alone at the start of the next says nothing. */
export const keepUnits = (text: string): string => text.replace(NUMBER_AND_UNIT, TOGETHER).replace(DOUBT, `±${TOGETHER}`);
