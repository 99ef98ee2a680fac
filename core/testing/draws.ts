/** How many cases a drawn test takes: a few in every run, all in `npm run soak`. */
export const draws = (everyRun: number, soak: number): number => (process.env["HOUND_SOAK"] ? soak : everyRun);
