import * as yup from "yup";

import { hiddenId } from "~/kit/forms/fields";

export const parkedSchema = yup.object({ parked: hiddenId() });
