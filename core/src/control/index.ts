export {
  controlChart,
  controlSentence,
  LEAST_POINTS,
  type ControlChart,
  type ControlledPoint,
  type ControlPoint,
  type OffWhy,
} from './controlChart.ts';
