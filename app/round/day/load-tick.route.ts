import { form, formAction } from "~/kit/server/form-action.server";
import { tickLoad } from "~/stores/load/hold-load.server";

import type { Route } from "./+types/load-tick.route";
import { tickSchema } from "./day-schemas";

/** Ticks lines of a load list, or takes their ticks away. */
export function action(args: Route.ActionArgs) {
  return formAction(args, {
    tick: form(tickSchema, async ({ on, for: personId, line: lines, ticked }, who, now) => {
      await tickLoad(who, { personId: personId ?? who.id, on, lines, ticked: ticked === "yes" }, now);
    }),
  });
}
