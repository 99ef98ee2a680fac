import { DAY } from "~/kit/day-pattern";
import { textOf } from "~/kit/form-text";
import { Refusal } from "~/kit/refusal";
import { actorOf } from "~/people/session.server";
import { tickLoad } from "~/stores/load/load.server";

import type { Route } from "./+types/load-tick.route";

/** Ticks one line of a load list, or takes the tick away. */
export async function action({ request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const formData = await request.formData();
  const on = textOf(formData, "on", 10);
  if (!DAY.test(on)) return Response.json({ message: "The day is missing. Load the page again." }, { status: 422 });
  try {
    await tickLoad(
      actor,
      textOf(formData, "for", 36) || actor.id,
      on,
      textOf(formData, "line", 120),
      textOf(formData, "ticked", 4) === "yes",
      new Date(),
    );
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return Response.json({ message: error.message }, { status: error.status });
  }
  return Response.json({ message: null });
}
