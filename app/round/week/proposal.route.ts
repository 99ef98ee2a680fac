import { form, formAction } from "~/kit/server/form-action.server";
import { toldWhileWorking } from "~/kit/server/told-while-working.server";

import type { Route } from "./+types/proposal.route";
import { proposeWeek } from "./propose-week.server";
import { weekSchema } from "./week-schemas";

/** Proposes a week and tells how far it is. */
export function action(args: Route.ActionArgs) {
  return formAction(args, {
    propose: form(weekSchema, ({ from }, _, now) =>
      Promise.resolve(toldWhileWorking((progress) => proposeWeek(from, now, progress))),
    ),
  });
}
