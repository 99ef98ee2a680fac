import { Form, Link, redirect } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { failureFigures, setFailureFigures } from "~/stores/costs/failure-figures.server";
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/figures.route";
import { figuresSchema } from "./wear-schemas";

export const meta: Route.MetaFunction = () => [{ title: "What a failure costs · Humble Hound" }];

export function loader() {
  return served(async () => ({ figures: await failureFigures() }));
}

const inEuros = (amount: number): string => (amount / 100).toFixed(2);
const cents = (euros: number): number => Math.round(euros * 100);

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    figures: form(figuresSchema, async ({ low, usual, high, visit, secondTrip }, who, now) => {
      await setFailureFigures(
        who,
        {
          failure: { low: cents(low), usual: cents(usual), high: cents(high) },
          visit: cents(visit),
          secondTrip: secondTrip / 100,
        },
        now,
      );
      return redirect("/machines/wear");
    }),
  });
}

/** What the firm counts with when a part fails before it is renewed. */
export default function Figures({ loaderData, actionData }: Route.ComponentProps) {
  const { failure, visit, secondTrip, set } = loaderData.figures;
  const answer = answerTo(actionData, "figures");
  const fields = [
    { id: "low", label: "Where it matters little, euros", given: inEuros(failure.low) },
    { id: "usual", label: "As usual, euros", given: inEuros(failure.usual) },
    { id: "high", label: "Where work stands still or somebody is put at risk, euros", given: inEuros(failure.high) },
    { id: "visit", label: "Coming for it alone, euros", given: inEuros(visit) },
    { id: "secondTrip", label: "Second trips for a part that are put up with, %", given: String(secondTrip * 100) },
  ];
  return (
    <>
      <PageHead
        back={<Link to="/machines/wear">Wear</Link>}
        title="What a failure costs"
        subtitle="Lost use and harm when a part fails before it is renewed, in euros. “Now or next visit” counts with it, and what a day takes along."
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
            defaultValue={typed(answer, one.id) ?? one.given}
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
