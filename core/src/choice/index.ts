export { paretoFront, type Better } from './paretoFront.ts';
