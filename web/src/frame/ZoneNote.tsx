import { ownZone } from '../data/api.ts';
import { Note } from './Margin.tsx';

/** Of a page with times on it: by whose clocks they go. */
export function ZoneNote() {
  return <Note>Times are those of this browser’s clock, {ownZone()}.</Note>;
}
