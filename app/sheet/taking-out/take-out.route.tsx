import { Form, Link, redirect } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { retireSchema } from "~/machines/adding/new-machine-schemas";
import { getMachine } from "~/machines/machines.server";
import { personNames } from "~/people/people.server";
import { Day, OnDay } from "~/ui/day";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/take-out.route";
import { takeBack, takeOut, takingOut } from "./take-out.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Take out ${data.machine.name}`, "Take a machine out") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { machine } = await getMachine(params.machineId);
    const by = machine.retired ? ((await personNames([machine.retired.by]))[machine.retired.by] ?? null) : null;
    return { machine, by, ends: await takingOut(params.machineId) };
  });
}

export function action(args: Route.ActionArgs) {
  const { machineId } = args.params;
  const back = () => redirect(`/machines/${machineId}`);
  return formAction(args, {
    out: form(retireSchema, async ({ why }, who, now) => {
      await takeOut(who, machineId, why, now);
      return back();
    }),
    back: form(NOTHING, async (_, who, now) => {
      await takeBack(who, machineId, now);
      return back();
    }),
  });
}

export default function TakeOut({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, by, ends } = loaderData;
  const out = answerTo(actionData, "out");
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to={`/machines/${machine.id}`}>{machine.name}</Link>
          </>
        }
        title={machine.retiredOn === null ? "Take it out for good" : "Take it back"}
      />
      {machine.retired ? (
        <Form method="post" className="panel p-4">
          <p className="mb-3">
            Taken out <OnDay on={machine.retiredOn} />
            {by === null ? "" : ` by ${by}`}: {machine.retired.why}. Back in the register it owes again what it did,
            counted from its last services.
          </p>
          <button name="intent" value="back" className="btn btn-main">
            Take it back
          </button>
        </Form>
      ) : ends.open.length > 0 ? (
        <Notice title="A sheet is open on it">
          <p>Sign it, or end it without the work, first.</p>
          <ul className="mt-2">
            {ends.open.map((sheet) => (
              <li key={sheet.id}>
                <Link to={`/sheet/${sheet.id}`}>
                  Sheet of <Day at={sheet.openedAt} />
                </Link>
              </li>
            ))}
          </ul>
        </Notice>
      ) : (
        <Form method="post" className="panel p-4">
          {out.message && <Notice tone="problem">{out.message}</Notice>}
          <input type="hidden" name="intent" value="out" />
          <p className="mb-2">With it ends what is open: {endsInWords(ends)}.</p>
          <p className="mb-4">
            {ends.records === 0
              ? "It has no records."
              : `Its ${ends.records === 1 ? "record stays" : `${ends.records} records stay`}, readable in the book and on its trail.`}{" "}
            Its tag stays its own.
          </p>
          <PlainField
            id="why"
            name="why"
            label="Why"
            hint="Such as sold, scrapped, or taken back by its owner."
            answer={out.errors.why}
            defaultValue={typed(out, "why")}
          />
          <button className="btn btn-main mt-3">Take it out</button>
        </Form>
      )}
    </div>
  );
}

const count = (n: number, one: string, more: string): string[] =>
  n === 0 ? [] : [n === 1 ? `one ${one}` : `${n} ${more}`];

function endsInWords({ duties, items, reports, links }: Route.ComponentProps["loaderData"]["ends"]): string {
  const parts = [
    ...count(duties, "duty", "duties"),
    ...count(items, "thing left to do", "things left to do"),
    ...count(reports, "report", "reports"),
    ...count(links, "operator's link", "operators' links"),
  ];
  return parts.length === 0 ? "nothing" : parts.join(", ");
}
