/** A share as people read it: `85 %`, rounded down: what holds in 79.6 % of cases does not hold in 80. */
export const inPercent = (share: number): string => `${Math.floor(100 * share + 1e-9)} %`;
