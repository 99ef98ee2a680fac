import * as yup from "yup";

import { csvFile, ticked } from "./fields";

/** A table to be read in; the good rows of a faulty one only when that was asked for. */
export const tableSchema = yup.object({ file: csvFile(), takeGood: ticked() });
