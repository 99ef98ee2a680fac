/** What a form of several on one page answered: which one, and what is wrong with its fields. */
export interface FormAnswer {
  form: string;
  errors: Record<string, string[]>;
  message?: string;
}
