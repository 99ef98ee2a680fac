/** It ships without types. */
declare module "ml-regression-theil-sen" {
  export class TheilSenRegression {
    constructor(x: readonly number[], y: readonly number[]);
    readonly slope: number;
    readonly intercept: number;
  }
}
