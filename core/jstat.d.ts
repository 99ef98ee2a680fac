/** It ships without types. */
declare module "jstat" {
  const jstat: {
    beta: {
      /** The quantile at `p` of the beta distribution with both shapes. */
      inv: (p: number, alpha: number, beta: number) => number;
    };
    /** Pearson's correlation. */
    corrcoeff: (a: number[], b: number[]) => number;
    /** Ranks from 1, equal values at their mean rank. */
    rank: (values: number[]) => number[];
    gammafn: (x: number) => number;
    /** The lower incomplete gamma function, as a share of the whole. */
    lowRegGamma: (a: number, x: number) => number;
  };
  export default jstat;
}
