import { Form, Link, redirect } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/figures.route";
import { failureFigures, setFailureFigures } from "./wear-costs.server";
import { figuresSchema } from "./wear-schemas";

export const meta: Route.MetaFunction = () => [{ title: "What a failure costs · Humble Hound" }];

export function loader() {
  return served(async () => ({ figures: await failureFigures() }));
}

const cents = (euros: number): number => Math.round(euros * 100);

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    figures: form(figuresSchema, async ({ low, usual, high, visit }) => {
      await setFailureFigures({
        failure: { low: cents(low), usual: cents(usual), high: cents(high) },
        visit: cents(visit),
      });
      return redirect("/machines/wear");
    }),
  });
}

/** What the firm counts with when a part fails before it is renewed. */
export default function Figures({ loaderData, actionData }: Route.ComponentProps) {
  const { failure, visit, set } = loaderData.figures;
  const answer = answerTo(actionData, "figures");
  const fields = [
    { id: "low", label: "Where it matters little", cents: failure.low },
    { id: "usual", label: "As usual", cents: failure.usual },
    { id: "high", label: "Where work stands still or somebody is put at risk", cents: failure.high },
    { id: "visit", label: "Coming for it alone", cents: visit },
  ];
  return (
    <>
      <PageHead
        back={<Link to="/machines/wear">Wear</Link>}
        title="What a failure costs"
        subtitle="Lost use and harm when a part fails before it is renewed, in euros. “Now or next visit” counts with it."
      />
      {!set && <p className="mb-4">These are figures to begin with. Put in your own.</p>}
      <Form method="post" className="panel max-w-xl space-y-4 p-4">
        {fields.map((one) => (
          <PlainField
            key={one.id}
            id={one.id}
            name={one.id}
            label={one.label}
            inputMode="decimal"
            defaultValue={typed(answer, one.id) ?? (one.cents / 100).toFixed(2)}
            answer={answer.errors[one.id]}
          />
        ))}
        <button type="submit" className="btn">
          Count with these
        </button>
      </Form>
    </>
  );
}
