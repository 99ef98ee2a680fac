import * as yup from "yup";

import { hiddenId } from "~/kit/forms/fields";

/** Lets a message that did not go out be tried again. */
export const againSchema = yup.object({ message: hiddenId() });
