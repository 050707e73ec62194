import { requireFinite, requirePositive } from '../errors.ts';

/** Coefficients of the saturation line, IAPWS Industrial Formulation 1997, region 4, table 34. */
const N = [
  0.11670521452767e4, -0.72421316703206e6, -0.17073846940092e2, 0.1202082470247e5, -0.32325550322333e7, 0.1491510861353e2,
  -0.48232657361591e4, 0.40511340542057e6, -0.23855557567849, 0.65017534844798e3,
] as const;

/**
 * Boiling point of water at a pressure, for the second fixed point of a calibration.
 *
 * @param pressureHPa absolute air pressure, 300 to 1200 hPa (not reduced to sea level)
 * @returns °C
 * @throws RangeError a pressure no place on land has
 * @see IAPWS-IF97, backward equation T_s(p)
 */
export function boilingPoint(pressureHPa: number): number {
  requirePositive(pressureHPa, 'pressureHPa');
  if (pressureHPa < 300 || pressureHPa > 1200)
    throw new RangeError(`air pressure lies between 300 and 1200 hPa, got ${pressureHPa}; is it in another unit?`);
  const beta = (pressureHPa / 10_000) ** 0.25;
  const e = beta ** 2 + N[2] * beta + N[5];
  const f = N[0] * beta ** 2 + N[3] * beta + N[6];
  const g = N[1] * beta ** 2 + N[4] * beta + N[7];
  const d = (2 * g) / (-f - Math.sqrt(f ** 2 - 4 * e * g));
  return (N[9] + d - Math.sqrt((N[9] + d) ** 2 - 4 * (N[8] + N[9] * d))) / 2 - 273.15;
}

/**
 * Mean air pressure at an altitude, for where no barometer is at hand. Weather moves it by ±3 %, which is ±0.9 K of boiling point.
 *
 * @param altitudeM −500 to 6000 m above the sea
 * @returns hPa
 * @throws RangeError outside that range
 * @see ISO 2533:1975, standard atmosphere
 */
export function pressureAtAltitude(altitudeM: number): number {
  requireFinite(altitudeM, 'altitudeM');
  if (altitudeM < -500 || altitudeM > 6000) throw new RangeError(`altitude lies between −500 and 6000 m, got ${altitudeM}`);
  return 1013.25 * (1 - 2.25577e-5 * altitudeM) ** 5.25588;
}
