import { CoreError } from "@core";

import { Refusal } from "~/kit/refusal";

/** What a worker thread answers. Errors lose their class on the way between threads, so expected ones come as data. */
export type AsideAnswer<Out> =
  | { out: Out }
  | { fault: { kind: "core"; code: CoreError["code"]; path: string; message: string } }
  | { fault: { kind: "refusal"; status: Refusal["status"]; code: string; message: string } };

/** Does one piece of work in a worker thread. */
export async function answerAside<Out>(work: () => Out | Promise<Out>): Promise<AsideAnswer<Out>> {
  try {
    return { out: await work() };
  } catch (error) {
    const { message } = error as Error;
    if (error instanceof CoreError) return { fault: { kind: "core", code: error.code, path: error.path, message } };
    if (error instanceof Refusal)
      return { fault: { kind: "refusal", status: error.status, code: error.code, message } };
    throw error;
  }
}
