import { CoreError } from "@core";

import { Refusal } from "~/kit/refusal";

/**
 * What a worker thread answers. Errors lose their class on the way between threads, so expected ones come as data. What was
 * read from a file comes as text: tens of thousands of rows, copied one by one, would hold the process.
 */
export type AsideAnswer<Out> =
  | { out: Out }
  | { text: string }
  | { fault: { kind: "core"; code: CoreError["code"]; path: string; message: string } }
  | { fault: { kind: "refusal"; status: Refusal["status"]; code: string; message: string } };

/** Does one piece of work in a worker thread. */
export async function answerAside<Out>(work: () => Out | Promise<Out>, asText: boolean): Promise<AsideAnswer<Out>> {
  try {
    const out = await work();
    return asText ? { text: JSON.stringify(out) } : { out };
  } catch (error) {
    const { message } = error as Error;
    if (error instanceof CoreError) return { fault: { kind: "core", code: error.code, path: error.path, message } };
    if (error instanceof Refusal)
      return { fault: { kind: "refusal", status: error.status, code: error.code, message } };
    throw error;
  }
}
