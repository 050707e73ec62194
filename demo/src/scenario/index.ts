export { REPEATABILITY, SLOT_LID } from './drives.ts';
export { CALIBRATIONS, INSTRUMENTS } from './instruments.ts';
export { FIXES, LAYOUT, PASTE_ROUND } from './plans.ts';
export { ARMOUR } from './armour.ts';
export { FIVE_BOARDS, WATTS } from './regulators.ts';
export { REPEATABILITY_RUNS, SLOT_LID_RUNS, type DemoRun } from './runs.ts';
export { bareSurvey } from './survey.ts';
export { HEAT_PATH, HOLDING_BACK, HOT_DRIVE, LONG_SESSION } from './live.ts';
