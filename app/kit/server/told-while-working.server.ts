import { asRefusal } from "./database-refusal.server";

/** How far work is: so much done, of so much. */
export type Progress = (done: number, total: number) => void;

/**
 * Answers with lines of JSON while the work goes on: `{ done, total }` as it comes further, and `{ result }` or `{ fault }` as the
 * last one.
 */
export function toldWhileWorking<Result>(work: (progress: Progress) => Promise<Result>): Response {
  const text = new TextEncoder();
  let wanted = true;
  const lines = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (line: object): void => {
        if (wanted) controller.enqueue(text.encode(`${JSON.stringify(line)}\n`));
      };
      try {
        const result = await work((done, total) => {
          if (!wanted) throw new Error("Nobody waits for it any more.");
          say({ done, total });
        });
        say({ result });
      } catch (error) {
        if (!wanted) return;
        const refusal = asRefusal(error);
        if (!refusal) console.error(error);
        say({ fault: refusal?.message ?? "It could not be worked out. Try again." });
      }
      if (wanted) controller.close();
    },
    // Whoever asked has gone: the work ends where it tells next how far it is.
    cancel() {
      wanted = false;
    },
  });
  return new Response(lines, {
    // Held back until it is worth packing, a line of progress would say nothing.
    headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-store, no-transform" },
  });
}
