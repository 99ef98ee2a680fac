import { useState } from "react";
import { Form, Link, redirect } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { Day, OnDay } from "~/ui/day";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/fault.route";
import { CodesThatFit } from "./codes-that-fit";
import { holdingUp } from "./down-time.server";
import { faultQuery, startFaultSchema } from "./fault-schemas";
import { machineFaults } from "./faults.server";
import { fitsWords } from "./fits-words";
import { HowItHoldsUp } from "./holding-up";
import { startFault } from "./start-fault.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `What is wrong with ${data.machine.name}`, "What is wrong") },
];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { report, about = null } = readQuery(request, faultQuery);
    const [view, figures] = await Promise.all([
      machineFaults(params.machineId, report ?? null),
      holdingUp(params.machineId, new Date()),
    ]);
    return { ...view, figures, about };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    start: form(startFaultSchema, async ({ symptom, report = null, code = null, about = null }, who, now) =>
      redirect(`/sheet/${await startFault(who, args.params.machineId, { symptom, report, code, about }, now)}`),
    ),
  });
}

/** What the operator says, in one tap to the sheet that looks for the cause; below it what was found here before. */
export default function Fault({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, report, symptoms, codes, open, past, figures, about } = loaderData;
  const [words, setWords] = useState("");
  const answer = answerTo(actionData, "start");
  const fitting = symptoms.filter((one) => fitsWords(words, [one.says, ...one.also]));
  const fittingCodes = words.trim() === "" ? [] : codes.filter((one) => fitsWords(words, [one.code, one.says]));
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={<Link to={`/machines/${machine.id}`}>{machine.name}</Link>}
        title="What is wrong?"
        subtitle={<span className="figure">{machine.tag}</span>}
      >
        <Link to={`/machines/faults/${machine.family}`} className="btn">
          The guide
        </Link>
      </PageHead>
      {answer.message && <Notice tone="problem">{answer.message}</Notice>}
      {open.map((sheet) => (
        <Notice key={sheet.id} title="Somebody is looking for a fault already">
          <Link to={`/sheet/${sheet.id}`}>{sheet.title}</Link>, begun <Day at={sheet.openedAt} />
        </Notice>
      ))}
      {report && (
        <Notice title={report.stopped ? "Reported: machine stopped" : "Reported"}>
          {report.text} ({report.name})
        </Notice>
      )}
      {about && <Notice title="Begun because of">{about}</Notice>}
      {symptoms.length === 0 ? (
        <p className="panel mt-4 p-4">There is no fault guide for this family yet: log a finding on its sheet.</p>
      ) : (
        <div className="mt-4">
          <label htmlFor="words" className="mb-1 block font-semibold">
            In the operator&apos;s words{codes.length > 0 && ", or the code that it shows"}
          </label>
          <input
            id="words"
            className="field"
            autoComplete="off"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <CodesThatFit codes={fittingCodes} report={report?.id ?? null} />
          <Form method="post">
            <input type="hidden" name="intent" value="start" />
            {report && <input type="hidden" name="report" value={report.id} />}
            {about && <input type="hidden" name="about" value={about} />}
            <ul className="mt-3 grid gap-2 sm:grid-cols-2">
              {fitting.map(({ id: symptom, says }) => (
                <li key={symptom}>
                  <button
                    name="symptom"
                    value={symptom}
                    className="btn btn-big h-full w-full justify-start text-left wrap-anywhere"
                  >
                    {says}
                  </button>
                </li>
              ))}
            </ul>
            {fitting.length === 0 && fittingCodes.length === 0 && (
              <p role="status" className="mt-3">
                The guide has nothing in these words. Try others, or leave them out to see all {symptoms.length}.
              </p>
            )}
          </Form>
        </div>
      )}
      <div className="mt-7 space-y-7">
        <Section id="past" title="Found on this machine">
          {past.length === 0 ? (
            <p className="panel p-4">Nothing was looked for with the guide yet.</p>
          ) : (
            <ul className="panel divide-y divide-line">
              {past.map((one) => (
                <li key={`${one.sheetId} ${one.round}`} className="p-3 wrap-anywhere">
                  <Link to={`/book/records/${one.sheetId}`}>{one.causeName}</Link>
                  <span className="block text-sm text-ink-soft">
                    “{one.symptomName}”, {OUTCOMES[one.outcome]}, <OnDay on={one.onDay} />, {one.byName}
                  </span>
                </li>
              ))}
            </ul>
          )}
        </Section>
        <Section id="holds-up" title="How it holds up">
          <HowItHoldsUp figures={figures} />
        </Section>
      </div>
    </div>
  );
}

const OUTCOMES = {
  cured: "cured",
  "handed-over": "handed over",
  "not-cured": "it was not that",
};
