/** Works out all lines of wear anew, and what is foreseen from them. */
import { refitAll } from "../app/wear/refit.server";
import { getDb } from "../db/index";

const at = performance.now();
const { lines, foreseen } = await refitAll(new Date());
process.stdout.write(
  `${lines.toLocaleString("en")} lines of wear, ${foreseen.toLocaleString("en")} in use, in ${((performance.now() - at) / 1000).toFixed(1)} s.\n`,
);
await getDb().close();
