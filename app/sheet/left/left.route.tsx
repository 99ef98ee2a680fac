import { must } from "@core";
import { Form, Link, redirect } from "react-router";

import { LeftList } from "~/duties/left/left-list";
import { wantedWhy } from "~/duties/left/left-words";
import { openItemsOf, type OpenItemView } from "~/duties/left/open-items.server";
import { shortDay } from "~/kit/days/day-time";
import { dayInZone } from "~/kit/days/site-day";
import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { machineHead } from "~/machines/machines.server";
import { listWorkers } from "~/people/people.server";
import { actorOf } from "~/people/session.server";
import { useDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PlainField, PlainSelect } from "~/ui/plain-field";
import { titleOf } from "~/ui/title-of";
import { Why } from "~/ui/why";

import { aboutPath } from "../found-here";
import type { Route } from "./+types/left.route";
import { changeItem, closeItem } from "./change-items.server";
import { closeItemSchema, itemSchema } from "./left-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Left open, ${data.machine.name}`, "Left open") },
];

const CLOSED_SHOWN = 20;

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const machine = await machineHead(params.machineId);
    const actor = actorOf(context);
    return {
      machine,
      items: await openItemsOf(machine.id, { closed: CLOSED_SHOWN }),
      people: await listWorkers(),
      me: actor.id,
      lead: actor.role === "lead",
      today: dayInZone(new Date(), machine.timeZone),
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { machineId } = args.params;
  const back = () => redirect(`/machines/${machineId}/left`);
  return formAction(args, {
    change: form(itemSchema, async ({ item, owner, who, ...rest }, actor, now) => {
      await changeItem(
        actor,
        machineId,
        item,
        {
          ownerId: owner ?? null,
          who: who,
          wantedBy: rest.wantedBy,
          authorisation: rest.authorisation ?? null,
          askedWhom: rest.askedWhom ?? null,
          askedOn: rest.askedOn ?? null,
          bookedFor: rest.bookedFor ?? null,
        },
        now,
      );
      return back();
    }),
    close: form(closeItemSchema, async ({ item, reason }, actor, now) => {
      await closeItem(actor, { machineId, id: item, reason }, now);
      return back();
    }),
  });
}

export default function Left({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, items, people, me, lead, today } = loaderData;
  const open = items.filter((one) => one.closedAt === null);
  const closed = items.filter((one) => one.closedAt !== null);
  const dayOf = useDay();
  const mayChange = (one: OpenItemView): boolean => lead || one.ownerId === me;
  return (
    <>
      <PageHead
        back={<Link to={`/machines/${machine.id}`}>{machine.name}</Link>}
        title="Left open"
        subtitle={
          <>
            {machine.name} <span className="figure">{machine.tag}</span>, {machine.siteName}
          </>
        }
      />
      {open.length === 0 ? (
        <p className="panel p-4">Nothing is open here. What sheets leave to be done stands on this page.</p>
      ) : (
        <LeftList
          items={open}
          today={today}
          action={(one) => (
            <div className="w-full">
              <Why because={wantedWhy(one, dayOf(one.arisenAt), today)} summary="Why this day?" />
              <div className="flex flex-wrap gap-2">
                {one.workDutyId && (
                  <Link to={`/duties/${one.workDutyId}`} className="btn">
                    Open its duty<span className="sr-only">: {one.title}</span>
                  </Link>
                )}
                {(one.kind === "finding" || one.kind === "out-of-limit") && (
                  <Link to={aboutPath(machine.id, one.title)} className="btn">
                    Look for its cause<span className="sr-only">: {one.title}</span>
                  </Link>
                )}
              </div>
              {mayChange(one) && <ItemForms one={one} people={people} lead={lead} answer={actionData} />}
            </div>
          )}
        />
      )}
      {closed.length > 0 && (
        <section aria-labelledby="closed" className="mt-7">
          <h2 id="closed" className="mb-2 text-lg">
            Settled
          </h2>
          <ul className="panel divide-y divide-line">
            {closed.map((one) => (
              <li key={one.id} className="px-3 py-2">
                <p className="wrap-anywhere">{one.title}</p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  left open on {shortDay(dayOf(one.arisenAt), today)},{" "}
                  {closedWords(one, shortDay(dayOf(must(one.closedAt)), today))}
                  {one.closedSheetId && (
                    <>
                      {" · "}
                      <Link to={`/book/records/${one.closedSheetId}`}>
                        the sheet<span className="sr-only"> that settled {one.title}</span>
                      </Link>
                    </>
                  )}
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function closedWords(one: OpenItemView, on: string): string {
  const who = one.closedByName === null ? "" : ` by ${one.closedByName}`;
  return `settled on ${on}${who}${one.closedNote ? `: ${one.closedNote}` : ""}`;
}

function ItemForms({
  one,
  people,
  lead,
  answer,
}: {
  one: OpenItemView;
  people: readonly { id: string; name: string }[];
  lead: boolean;
  answer: FormAnswer | undefined;
}) {
  const change = answerTo(answer, "change", ["item", one.id]);
  const close = answerTo(answer, "close", ["item", one.id]);
  const shown = (field: string, value: string | null): string => typed(change, field) ?? value ?? "";
  return (
    <Disclosure title="Change" label={`Change: ${one.title}`} open={change.refused || close.refused}>
      <Form method="post" className="mt-1 grid gap-3 sm:grid-cols-2" noValidate>
        <input type="hidden" name="intent" value="change" />
        <input type="hidden" name="item" value={one.id} />
        {change.message && (
          <div className="sm:col-span-2">
            <Notice tone="problem">{change.message}</Notice>
          </div>
        )}
        <PlainSelect
          id={`owner-${one.id}`}
          name="owner"
          label="Whose it is"
          empty="Nobody's yet"
          options={people}
          defaultValue={shown("owner", one.ownerId)}
          answer={change.errors.owner}
        />
        <PlainField
          id={`wanted-${one.id}`}
          name="wantedBy"
          type="date"
          label="Wanted by"
          defaultValue={shown("wantedBy", one.wantedBy)}
          answer={change.errors.wantedBy}
        />
        <PlainSelect
          id={`who-${one.id}`}
          name="who"
          label="Who does it"
          options={[
            { id: "technician", name: "A technician" },
            { id: "licensed", name: "A licensed service" },
          ]}
          defaultValue={shown("who", one.who)}
          answer={change.errors.who}
        />
        <PlainField
          id={`authorisation-${one.id}`}
          name="authorisation"
          label="Authorisation it takes"
          defaultValue={shown("authorisation", one.authorisation)}
          answer={change.errors.authorisation}
        />
        <PlainField
          id={`asked-${one.id}`}
          name="askedWhom"
          label="Licensed service that was asked"
          defaultValue={shown("askedWhom", one.askedWhom)}
          answer={change.errors.askedWhom}
        />
        <PlainField
          id={`asked-on-${one.id}`}
          name="askedOn"
          type="date"
          label="Asked on"
          defaultValue={shown("askedOn", one.askedOn)}
          answer={change.errors.askedOn}
        />
        <PlainField
          id={`booked-${one.id}`}
          name="bookedFor"
          type="date"
          label="Booked for"
          defaultValue={shown("bookedFor", one.bookedFor)}
          answer={change.errors.bookedFor}
        />
        <div className="self-end">
          <button className="btn btn-main">Keep</button>
        </div>
      </Form>
      {lead && one.severity !== "unsafe" && (
        <Form method="post" className="mt-4 flex flex-wrap items-end gap-3 border-t border-line pt-3" noValidate>
          <input type="hidden" name="intent" value="close" />
          <input type="hidden" name="item" value={one.id} />
          <PlainField
            id={`reason-${one.id}`}
            name="reason"
            label="Close it without the work, because"
            className="min-w-60 flex-1"
            answer={close.errors.reason ?? (close.message ? [close.message] : undefined)}
          />
          <button className="btn">Close it</button>
        </Form>
      )}
      {one.severity === "unsafe" && (
        <p className="text-sm">It closes with the signature that returns the machine to service.</p>
      )}
    </Disclosure>
  );
}
