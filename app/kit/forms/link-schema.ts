import * as yup from "yup";

import { hiddenId } from "./fields";

/** A link without sign-in that is to be ended. */
export const linkSchema = yup.object({ link: hiddenId() });
