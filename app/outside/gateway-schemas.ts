import * as yup from "yup";

import { GONE, id, listOf } from "~/kit/forms/fields";

const TICK = "Tick at least one reading.";

export const parkedSchema = yup.object({
  parked: listOf(id().required(GONE), 100).min(1, TICK).required(TICK),
});
