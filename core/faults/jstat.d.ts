/** It ships without types. */
declare module "jstat" {
  const jstat: {
    beta: {
      /** The quantile at `p` of the beta distribution with both shapes. */
      inv: (p: number, alpha: number, beta: number) => number;
    };
  };
  export default jstat;
}
