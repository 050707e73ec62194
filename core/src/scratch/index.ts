export { notedNumber, notedTemperature, type NotedText } from './noted.ts';
export { scratchAnswers, type Noted, type ScratchAnswer, type ScratchNote } from './scratchNote.ts';
