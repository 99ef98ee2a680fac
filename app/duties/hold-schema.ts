import * as yup from "yup";

import { hiddenId, password, text } from "~/kit/forms/fields";

/** A lead's signature that a machine may be used again. */
export const clearHoldSchema = yup.object({
  hold: hiddenId(),
  note: text(1000).required("Say what was put right and how you know that it is safe."),
  password: password("Type your password to sign."),
});
