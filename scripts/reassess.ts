/** Assesses every duty of the register anew: after an upgrade of the engine, or to refresh forecasts. */
import { assessAll } from "../app/duties/assess.server";
import { getDb } from "../db/index";

const started = performance.now();
let shown = 0;
const { duties, changed } = await assessAll(new Date(), (machines, done) => {
  if (machines - shown < 5000) return;
  shown = machines;
  process.stdout.write(`  ${machines.toLocaleString("en")} machines, ${done.toLocaleString("en")} duties\n`);
});
process.stdout.write(
  `${duties.toLocaleString("en")} duties assessed, ${changed.toLocaleString("en")} changed, ${((performance.now() - started) / 1000).toFixed(1)} s\n`,
);
await getDb().close();
