import * as yup from "yup";

import { csvFile, ticked } from "./fields";

/** A table to be read in; the good rows of a faulty one only when that was asked for. */
export const tableSchema = yup.object({
  file: csvFile(),
  takeGood: ticked(),
  /** How days such as 03/04/2026 are meant; left out: as the file's other days tell. */
  dayOrder: yup.string().oneOf(["day-first", "month-first"] as const),
});
