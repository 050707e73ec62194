export { thermocoupleRange, thermocoupleTemperature, thermocoupleVoltage } from './thermocouple.ts';
