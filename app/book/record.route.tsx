import type { Correction } from "@core";
import { Link, redirect } from "react-router";

import { dayInZone } from "~/kit/days/site-day";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { toNumber } from "~/kit/forms/to-number";
import { againSchema } from "~/kit/messages/again-schema";
import { sendAgain } from "~/kit/messages/messages.server";
import { outcomeName } from "~/kit/outcomes";
import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { correctFact } from "~/sheet/log/sheets.server";
import { nextAfter } from "~/sheet/signing/next-after.server";
import { Notice } from "~/ui/notice";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/record.route";
import { AfterSigning } from "./after-signing";
import { correctionSchema, sendSchema } from "./book-schemas";
import { EntriesBeside } from "./entries-beside";
import { RecordExceptions } from "./record-exceptions";
import { NextDue, RecordHead, RecordSteps, RecordUses } from "./record-parts";
import { RecordPhotos } from "./record-photos";
import { Signatures } from "./record-signatures";
import { loadRecord } from "./records.server";
import { SendRecord } from "./send-record";
import { recordPost, sendRecord } from "./send-record.server";
import { timeOnSiteWords } from "./time-on-site";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Record: ${data.title}`, "Record") },
];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const { entries: _, late: __, ...record } = await loadRecord(params.sheetId, now);
    const isJustSigned = new URL(request.url).searchParams.has("signed");
    const { siteId } = record.duty;
    const after = isJustSigned ? await nextAfter(actorOf(context).id, siteId, dayInZone(now, record.timeZone)) : null;
    return { ...record, after, post: await recordPost(params.sheetId, siteId) };
  });
}

/** Logs a correction; the old value stays readable. */
export function action(args: Route.ActionArgs) {
  const { sheetId } = args.params;
  return formAction(args, {
    correct: form(correctionSchema, async ({ ref, field, to, why }, who, now) => {
      await correctFact(who, sheetId, { ref, set: correctionOf(field, to), why }, now);
      return redirect(`/book/records/${sheetId}`);
    }),
    send: form(sendSchema, async ({ to, name }, who, now) => {
      return `On its way to ${await sendRecord(who, sheetId, { name, address: to }, now)}.`;
    }),
    again: form(againSchema, async ({ message }, _, now) => {
      await sendAgain(message, { sheetId, kind: "record" }, now);
      return "It is tried again now.";
    }),
  });
}

function correctionOf(field: "value" | "qty" | "text" | "lot" | "answer", to: string): Correction {
  if (field === "lot") return { lot: to };
  if (field === "answer") return { answer: to };
  if (field === "text") return { text: to };
  const number = toNumber(to);
  if (number === null) throw new Refusal(422, "to", "This is no figure. Nothing was changed.");
  return field === "value" ? { value: number } : { qty: number };
}

export default function Record({ loaderData, actionData }: Route.ComponentProps) {
  const problem = allFaults(answerTo(actionData, "correct"));
  const {
    title,
    sheet,
    procedure,
    machine,
    state,
    steps,
    next,
    persons,
    itemNames,
    leftOpen,
    settled,
    after,
    together,
    letterhead,
    onSite,
    timeZone,
    cameLate,
    uncertain,
    instruments,
    chain,
    photos,
    unsafe,
    post,
  } = loaderData;
  const name = (id: string): string => persons[id] ?? "unknown";
  const signature = state.technicianSignature;
  if (sheet.status === "open") {
    return (
      <Notice title="This sheet is still open">
        <Link to={`/sheet/${sheet.id}`}>Go on with it</Link>; it becomes a record when it is signed or ended.
      </Notice>
    );
  }
  return (
    <article className="max-w-4xl">
      <p className="no-print mb-2 text-sm">
        <Link to="/book">Book</Link>
      </p>
      {actionData?.said && <Notice>{actionData.said}</Notice>}
      {after && <AfterSigning next={after} count={together.length + 1} />}
      <RecordHead
        title={title}
        machine={machine}
        sheet={sheet}
        letterhead={letterhead}
        onSite={timeOnSiteWords(onSite, timeZone)}
      />

      <RecordNotices state={state} problem={problem} unsafe={unsafe} />

      <RecordExceptions state={state} leftOpen={leftOpen} settled={settled} machineId={machine.id} name={name} />

      <NextDue next={next} state={state} />

      <RecordSteps timeZone={timeZone} steps={steps} name={name} instruments={instruments} />

      <RecordUses state={state} procedure={procedure} itemNames={itemNames} name={name} />

      <RecordPhotos state={state} photos={photos} name={name} />

      <Signatures
        state={state}
        signature={signature}
        sheet={sheet}
        name={name}
        timeZone={timeZone}
        together={together}
      />

      <SendRecord post={post} count={together.length + 1} answer={actionData} />

      <EntriesBeside
        title="Times that are not certain"
        note="The device’s clock was set or wrong: these are the best that is known."
        list={uncertain}
        name={name}
        timeZone={timeZone}
      />

      <EntriesBeside
        title={signature ? "Came after the signature" : "Came after the sheet was ended"}
        note="Kept beside the record: it changes nothing in it."
        list={cameLate}
        name={name}
        timeZone={timeZone}
      />

      <p className="figure mt-4 text-xs text-ink-soft">
        Sheet {sheet.id} · procedure {procedure.id} version {procedure.version}
        {chain.map((entry) => (
          <span key={entry.seq} className="block wrap-anywhere">
            {entry.kind === "record" ? "Record" : "Addition"} no. {entry.seq} of the chain, SHA-256 {entry.hash}
          </span>
        ))}
      </p>
    </article>
  );
}

/** What must be read before the record itself. */
function RecordNotices({
  state,
  problem,
  unsafe,
}: Pick<Route.ComponentProps["loaderData"], "state" | "unsafe"> & { problem: string | null }) {
  const missing = state.technicianSignature?.missingReason;
  return (
    <div className="space-y-4 not-empty:mb-4">
      {state.outcome && (
        <Notice title={`${outcomeName(state.outcome.outcome)}: the work was not done`}>{state.outcome.reason}</Notice>
      )}
      {problem && <Notice tone="problem">{problem}</Notice>}
      {missing && <Notice title="Signed with steps missing">{missing}</Notice>}
      {unsafe.length > 0 && (
        <Notice tone="problem" title="Done as it must not be: it does not count">
          {unsafe.join(" ")}
        </Notice>
      )}
    </div>
  );
}
