import { Refusal } from "./refusal";

/** Work of a loader whose expected "no" is shown to the person as it is worded, with its status. */
export async function served<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof Refusal) throw new Response(error.message, { status: error.status });
    throw error;
  }
}
