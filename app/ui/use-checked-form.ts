import { type DefaultValue, useForm } from "@conform-to/react";
import { useMemo } from "react";
import type { AnyObjectSchema, InferType } from "yup";

import { answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { parseWithYup } from "~/kit/forms/parse-form";

/**
 * A form that is checked by its schema in the browser before it is sent, and shows what the server answered: its faults
 * beside the fields, what was typed in them.
 */
export function useCheckedForm<Schema extends AnyObjectSchema>(
  schema: Schema,
  answer: FormAnswer | null | undefined,
  options: {
    /** Its name among the page's forms, as the action knows it. */
    form: string;
    id?: string;
    row?: readonly [field: string, value: string];
    defaultValue?: DefaultValue<InferType<Schema>>;
  },
) {
  const { form, id, row, defaultValue } = options;
  const [rowField, rowValue] = row ?? [];
  const lastResult = useMemo(() => {
    const own = answerTo(
      answer,
      form,
      rowField === undefined || rowValue === undefined ? undefined : [rowField, rowValue],
    );
    if (!own.refused) return null;
    const errors = own.message === null ? own.errors : { ...own.errors, "": [own.message] };
    return { status: "error" as const, initialValue: own.values, error: errors };
  }, [answer, form, rowField, rowValue]);
  return useForm<InferType<Schema>>({
    ...(id === undefined ? {} : { id }),
    ...(defaultValue === undefined ? {} : { defaultValue }),
    lastResult,
    onValidate: ({ formData }) => parseWithYup(formData, { schema }),
    shouldValidate: "onSubmit",
  });
}
