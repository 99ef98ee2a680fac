/** An expected "no": what happened and what to do, in words for the person. Routes turn it into an answer with its status. */
export class Refusal extends Error {
  readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 415 | 422 | 429 | 502 | 503;
  readonly code: string;

  constructor(status: Refusal["status"], code: string, message: string) {
    super(message);
    this.name = "Refusal";
    this.status = status;
    this.code = code;
  }
}
