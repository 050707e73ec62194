/** One line of the table: what is claimed, what was seen, and whether it holds. */
export interface Claim {
  claim: string;
  figure: string;
  bound: string;
  held: boolean;
}

export const share = (count: number, of: number): number => count / Math.max(1, of);

/** A claim whose figure shall lie between two values. */
export function line(claim: string, value: number, least: number, most: number): Claim {
  return { claim, figure: value.toFixed(3), bound: `${least} to ${most}`, held: value >= least && value <= most };
}
