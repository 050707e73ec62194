export { headroomStrip, type StripGeometry, type StripInput } from './headroomStrip.ts';
