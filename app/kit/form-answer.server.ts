import type { AnyObjectSchema, InferType } from "yup";

import type { FormAnswer } from "./form-answer";
import { parseWithYup } from "./parse-form";
import { Refusal } from "./refusal";

/** Reads a form by its schema: its values, or what to tell the person. */
export function readForm<Schema extends AnyObjectSchema>(
  form: string,
  formData: FormData,
  schema: Schema,
): { values: InferType<Schema> } | { answer: FormAnswer } {
  const submission = parseWithYup(formData, { schema });
  if (submission.status === "success") return { values: submission.value };
  const errors: Record<string, string[] | null> = submission.reply().error ?? {};
  return {
    answer: {
      form,
      errors: Object.fromEntries(Object.entries(errors).flatMap(([name, texts]) => (texts ? [[name, texts]] : []))),
    },
  };
}

/** A refusal as an answer: beside the field it names. Anything else is thrown on. */
export function refusalAnswer(form: string, error: unknown): FormAnswer {
  if (!(error instanceof Refusal)) throw error;
  return { form, errors: { [error.code]: [error.message] }, message: error.message };
}
