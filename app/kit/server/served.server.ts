import { asRefusal } from "./database-refusal.server";

/** Work of a loader whose expected "no" is shown to the person as it is worded, with its status. */
export async function served<T>(work: Promise<T> | (() => Promise<T>)): Promise<T> {
  try {
    return await (typeof work === "function" ? work() : work);
  } catch (error) {
    const refusal = asRefusal(error);
    if (refusal) throw new Response(refusal.message, { status: refusal.status });
    throw error;
  }
}
