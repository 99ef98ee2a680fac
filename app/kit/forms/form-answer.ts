/** Values of a form as they were typed: texts, several of a name, or rows of them. */
export interface FormValues {
  [name: string]: string | FormValues | (string | FormValues)[];
}

/** What somebody else changed while a form was open. */
export interface Meanwhile {
  /** Who; empty when it was no person. */
  by: string;
  at: Date | null;
  /** What stands now, as a form says what it was filled from. */
  seen: string;
  differ: { what: string; theirs: string; yours: string }[];
}

/** What every form is answered with, whatever it was about. */
export interface FormAnswer<Result = unknown> {
  /** Which form of the page. */
  form: string;
  /** What is wrong, by field: `name`, `triggers[0].every`. */
  errors: Record<string, string[]>;
  /** What is wrong with all of it, in words. */
  message: string | null;
  /** What was done, in words. */
  said: string | null;
  /** What was typed, without passwords and files; {} when it was taken. */
  values: FormValues;
  /** What came out, of forms that ask something. */
  result: Result | null;
  /** What is there is not what the form was filled from. */
  meanwhile?: Meanwhile | null;
}

/** An answer to a form that was taken. */
export function taken<Result>(form: string, said: string | null, result: Result | null = null): FormAnswer<Result> {
  return { form, errors: {}, message: null, said, values: {}, result };
}
