/** It ships without types. */
declare module "jstat" {
  export const jStat: {
    beta: {
      /** The quantile at `p` of the beta distribution with both shapes. */
      inv: (p: number, alpha: number, beta: number) => number;
    };
  };
}
