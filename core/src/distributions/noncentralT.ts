import { logGamma } from './gamma.ts';
import { normalCdf } from './normal.ts';
import { studentCoverage } from './studentT.ts';

const PANELS = 200; // Simpson panels per piece

function simpson(f: (x: number) => number, from: number, to: number): number {
  if (to <= from) return 0;
  const h = (to - from) / (2 * PANELS);
  let sum = f(from) + f(to);
  for (let i = 1; i < 2 * PANELS; i++) sum += (i % 2 === 1 ? 4 : 2) * f(from + i * h);
  return (sum * h) / 3;
}

/**
 * Power of the two-sided t test: P(|T'| > t_crit) for the noncentral t.
 *
 * Computed by integrating over the distribution of the pooled deviation w = √(χ²/ν), given which the statistic is normal. This
 * neither under- nor overflows for large noncentrality, unlike the usual series.
 *
 * @param noncentrality true difference over its standard error
 * @param dof degrees of freedom ν >= 1
 * @param alpha two-sided size of the test
 * @see Cohen 1988, Statistical Power Analysis, ch. 2; Johnson, Kotz & Balakrishnan 1995, ch. 31
 */
export function tTestPower(noncentrality: number, dof: number, alpha: number): number {
  const critical = studentCoverage(1 - alpha, dof);
  const logScale = Math.log(2) + (dof / 2) * Math.log(dof / 2) - logGamma(dof / 2);
  const density = (w: number) =>
    w <= 0 ? (dof === 1 ? Math.exp(logScale) : 0) : Math.exp(logScale + (dof - 1) * Math.log(w) - (dof * w * w) / 2);
  const integrand = (w: number) => (normalCdf(noncentrality - critical * w) + normalCdf(-noncentrality - critical * w)) * density(w);
  const spread = 10 / Math.sqrt(2 * dof);
  const from = Math.max(0, 1 - spread);
  const to = 1 + spread;
  // The normal part changes from 1 to 0 around w = δ/t: cut there so that no panel straddles the edge.
  const edges = [from, 1, (noncentrality - 8) / critical, noncentrality / critical, (noncentrality + 8) / critical, to]
    .map((w) => Math.min(to, Math.max(from, w)))
    .sort((a, b) => a - b);
  let power = 0;
  for (let i = 1; i < edges.length; i++) power += simpson(integrand, edges[i - 1]!, edges[i]!);
  return Math.min(1, power);
}
