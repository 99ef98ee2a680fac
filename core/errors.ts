/** Kinds of bad input the core refuses. Expected outcomes ("cannot be done") are values, never errors. */
export type CoreErrorCode =
  | "bad-date"
  | "bad-instant"
  | "bad-number"
  | "bad-value"
  | "missing"
  | "out-of-range"
  | "unknown-reference";

/**
 * Bad input to a core function.
 *
 * `path` names the offending field in dotted form (`plan.triggers[1].every`), so that a form or an importer can put
 * the message beside it; `message` is a sentence a person can act on.
 */
export class CoreError extends Error {
  readonly code: CoreErrorCode;
  readonly path: string;

  constructor(code: CoreErrorCode, path: string, message: string) {
    super(message);
    this.name = "CoreError";
    this.code = code;
    this.path = path;
  }
}
