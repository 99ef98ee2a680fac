import { Form, Link } from "react-router";

import { depotPlace } from "~/kit/days/depot.server";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { tableSchema } from "~/kit/forms/table-schema";
import { fileText } from "~/kit/server/file-text.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { depotSchema } from "~/round/day/day-schemas";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/ways.route";
import { importWays, listWays, saveDepot, WAY_COLUMNS } from "./ways-csv.server";

export const meta: Route.MetaFunction = () => [{ title: "Ways – Humble Hound" }];

const SHOWN = 200;

export function loader() {
  return served(async () => {
    const ways = await listWays();
    return { ways: ways.slice(0, SHOWN), total: ways.length, columns: [...WAY_COLUMNS], depot: await depotPlace() };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    ways: form(tableSchema, async ({ file }, who, now) => {
      const { faults, written } = await importWays(who, await fileText(file), now);
      return { result: { written, count: faults.length, faults: faults.slice(0, SHOWN) } };
    }),
    depot: form(depotSchema, async (depot, who, now) => {
      await saveDepot(who, depot, now);
      return "The depot is saved.";
    }),
  });
}

export default function Ways({ loaderData, actionData }: Route.ComponentProps) {
  const { ways, total, columns, depot } = loaderData;
  const result = actionData?.result;
  const problem = allFaults(answerTo(actionData, "ways"));
  const [depotForm, fields] = useCheckedForm(depotSchema, actionData, {
    form: "depot",
    id: "depot",
    ...(depot ? { defaultValue: depot } : {}),
  });
  return (
    <div className="max-w-3xl">
      <PageHead
        back={
          <>
            <Link to="/round/week">The week</Link>
          </>
        }
        title="Ways"
      />
      <Form
        method="post"
        id={depotForm.id}
        onSubmit={depotForm.onSubmit}
        noValidate={depotForm.noValidate}
        className="panel my-4 p-5"
      >
        <h2 className="mb-2 text-lg">Where rounds begin and end</h2>
        {actionData?.said && <Notice>{actionData.said}</Notice>}
        {depot === null && <Notice tone="plain">No depot is set yet: rounds begin at their first site.</Notice>}
        <input type="hidden" name="intent" value="depot" />
        <div className="grid gap-x-4 sm:grid-cols-2">
          <TextField field={fields.name} label="Name" />
          <TextField field={fields.timeZone} label="Time zone" />
          <TextField field={fields.latitude} label="Latitude" inputMode="decimal" />
          <TextField field={fields.longitude} label="Longitude" inputMode="decimal" />
        </div>
        <SubmitButton>Save the depot</SubmitButton>
      </Form>
      <h2 className="text-lg">Minutes between places</h2>
      <p className="mb-4 text-ink-soft">
        Minutes between places that you know better than any map. Other ways come from the road service, else by the
        direct way.
      </p>
      {problem && <Notice tone="problem">{problem}</Notice>}
      {result && result.count > 0 && (
        <Notice tone="problem" title="Nothing was written">
          <ul className="list-disc pl-5">
            {result.faults.map((fault) => (
              <li key={`${fault.line} ${fault.column}`}>
                Line {fault.line}
                {fault.column && `, ${fault.column}`}: {fault.reason}
              </li>
            ))}
          </ul>
        </Notice>
      )}
      {result && result.count === 0 && (
        <Notice tone="plain">
          {result.written === 0
            ? "The file names no ways."
            : `${result.written} ${result.written === 1 ? "way is" : "ways are"} in.`}
        </Notice>
      )}
      <Form method="post" encType="multipart/form-data" className="panel mt-3 p-5">
        <label htmlFor="file" className="mb-1 block font-semibold">
          CSV file, one line a way
        </label>
        <p id="file-hint" className="mb-2 text-sm text-ink-soft">
          Columns <span className="figure">{columns.join(", ")}</span>: the depot&apos;s or a site&apos;s name twice,
          and whole minutes. There and back are two lines.
        </p>
        <input
          id="file"
          name="file"
          type="file"
          accept=".csv,text/csv"
          className="field mb-3 py-2"
          aria-describedby="file-hint"
        />
        <SubmitButton>Take the ways</SubmitButton>
      </Form>
      {total === 0 ? (
        <p className="mt-4">None yet.</p>
      ) : (
        <>
          <p className="mt-4">
            <a href="/ways.csv" className="inline-block min-h-11 py-2">
              All {total} as CSV
            </a>
          </p>
          <table className="table-plain">
            <thead>
              <tr>
                <th scope="col">From</th>
                <th scope="col">To</th>
                <th scope="col">Minutes</th>
              </tr>
            </thead>
            <tbody>
              {ways.map((way) => (
                <tr key={`${way.from}\n${way.to}`}>
                  <td className="wrap-anywhere">{way.from}</td>
                  <td className="wrap-anywhere">{way.to}</td>
                  <td className="figure">{way.minutes}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}
