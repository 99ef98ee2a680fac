import type { FormAnswer, Meanwhile } from "./form-answer";

export interface OwnAnswer<Result> {
  message: string | null;
  said: string | null;
  errors: Record<string, string[]>;
  values: FormAnswer["values"];
  result: Result | null;
  meanwhile: Meanwhile | null;
  /** There was an answer, and it was no. */
  refused: boolean;
}

/**
 * What of a page's answer is for one of its forms.
 *
 * @param row of several forms alike, the hidden field that tells them apart and its value here
 */
export function answerTo<Result>(
  answer: FormAnswer<Result> | null | undefined,
  form: string,
  row?: readonly [field: string, value: string],
): OwnAnswer<Result> {
  const own = answer?.form === form && (row === undefined || answer.values[row[0]] === row[1]) ? answer : null;
  return {
    message: own?.message ?? null,
    said: own?.said ?? null,
    errors: own?.errors ?? {},
    values: own?.values ?? {},
    result: own?.result ?? null,
    meanwhile: own?.meanwhile ?? null,
    refused: own !== null && (own.message !== null || Object.keys(own.errors).length > 0),
  };
}

/** What was typed into a plain field; undefined when it was not answered. */
export function typed(answer: OwnAnswer<unknown>, name: string): string | undefined {
  const value = Object.hasOwn(answer.values, name) ? answer.values[name] : undefined;
  return typeof value === "string" ? value : undefined;
}

/** Everything that is wrong with a form, in one sentence, for forms that have no room beside their fields. */
export function allFaults(answer: OwnAnswer<unknown>): string | null {
  const words = [...(answer.message ? [answer.message] : []), ...Object.values(answer.errors).flat()];
  return words.length > 0 ? words.join(" ") : null;
}
