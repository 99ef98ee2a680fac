import { Link, redirect } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/book.route";
import { bundleSchema } from "./bundles/bundle-schemas";
import { askBundle } from "./bundles/bundles.server";
import { FoundRecords } from "./search/found-records";
import { FoundSummary } from "./search/found-summary";
import { NarrowBook } from "./search/narrow-book";
import { EXACT_TO, searchBook, searchChoices } from "./search/records-found.server";
import { recordSearchSchema } from "./search/search-schema";
import { spansAt } from "./search/spans";

export const meta: Route.MetaFunction = () => [{ title: "Book – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { after = null, ...narrowed } = readQuery(request, recordSearchSchema);
    const [search, choices, { on }] = await Promise.all([searchBook(narrowed), searchChoices(), firmDay(new Date())]);
    const [{ rows, next }, counted] = await Promise.all([search.page(after), search.count()]);
    const { said, problem } = search;
    return { rows, next, counted, said, problem, narrowed, after, choices, spans: spansAt(on), exactTo: EXACT_TO };
  });
}

/** Asks for what was found, put together in the background. */
export function action(args: Route.ActionArgs) {
  return formAction(args, {
    "records-pdf": form(bundleSchema, async (narrowed, who, now) =>
      redirect(`/book/bundles/${await askBundle(who, "records-pdf", narrowed, now)}`),
    ),
    "readings-csv": form(bundleSchema, async (narrowed, who, now) =>
      redirect(`/book/bundles/${await askBundle(who, "readings-csv", narrowed, now)}`),
    ),
  });
}

export default function Book({ loaderData, actionData }: Route.ComponentProps) {
  const lead = useIsLead();
  const fault = allFaults(answerTo(actionData, "records-pdf")) ?? allFaults(answerTo(actionData, "readings-csv"));
  return (
    <>
      <PageHead title="Book" subtitle="Signed and ended sheets, the newest first.">
        <Link to="/book/procedures" className="btn">
          Procedures
        </Link>
        <Link to="/book/bench" className="btn">
          Bench
        </Link>
        <Link to="/book/instruments" className="btn">
          Instruments
        </Link>
        <Link to="/book/bundles" className="btn">
          Bundles
        </Link>
        {lead && (
          <Link to="/book/people" className="btn">
            People
          </Link>
        )}
      </PageHead>
      {fault && (
        <div className="mb-4">
          <Notice tone="problem">{fault}</Notice>
        </div>
      )}
      <NarrowBook {...loaderData} />
      <FoundSummary {...loaderData} />
      <FoundRecords {...loaderData} />
    </>
  );
}
