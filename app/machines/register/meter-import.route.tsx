import { Form, Link } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { tableSchema } from "~/kit/forms/table-schema";
import { fileText } from "~/kit/server/file-text.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { DayOrderField } from "~/ui/day-order-field";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";

import type { Route } from "./+types/meter-import.route";
import { importReadings, METER_COLUMNS } from "./meter-csv.server";

export const meta: Route.MetaFunction = () => [{ title: "Meter readings from a file – Humble Hound" }];

const SHOWN = 200;

export function loader() {
  return { columns: [...METER_COLUMNS] };
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    take: form(tableSchema, async ({ file, takeGood, dayOrder = null }, who, now) => {
      const result = await importReadings(who, await fileText(file), { takeGood, dayOrder }, now);
      return { result: { ...result, faultCount: result.faults.length, faults: result.faults.slice(0, SHOWN) } };
    }),
  });
}

export default function MeterImport({ loaderData, actionData }: Route.ComponentProps) {
  const result = actionData?.result;
  const problem = allFaults(answerTo(actionData, "take"));
  return (
    <div className="max-w-3xl">
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        title="Meter readings from a file"
      />
      {problem && <Notice tone="problem">{problem}</Notice>}
      {result && (
        <Notice
          tone={result.added === null ? "problem" : "plain"}
          title={result.added === null ? "Nothing was written" : `${result.added} readings are in`}
        >
          {result.added === null
            ? `${result.faultCount} faults; ${result.good} rows are good. Mend the file, or send it again and take the good rows.`
            : result.added < result.good
              ? `${result.good - result.added} were there already.`
              : null}
        </Notice>
      )}
      <Form method="post" encType="multipart/form-data" className="panel mt-3 p-5">
        <label htmlFor="file" className="mb-1 block font-semibold">
          CSV file, one line a reading
        </label>
        <input id="file" name="file" type="file" accept=".csv,text/csv" className="field py-2" />
        <label className="my-3 flex min-h-11 items-center gap-2">
          <input type="checkbox" name="takeGood" className="size-5" /> Take the good rows even if others have faults
        </label>
        <DayOrderField />
        <SubmitButton>Take the readings</SubmitButton>
        <p className="mt-3 text-sm">
          Columns: <span className="figure">{loaderData.columns.join(", ")}</span>. The time is a day, or an instant
          with its offset. The same row counts once, however often it is sent.{" "}
          <a href="/machines/readings.csv" download>
            A file to fill in
          </a>
        </p>
      </Form>
      {result && result.faults.length > 0 && (
        <Section id="faults" title="Faults" panel className="mt-4 overflow-x-auto">
          <table className="table-plain text-sm">
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col">Column</th>
                <th scope="col">What is wrong</th>
              </tr>
            </thead>
            <tbody>
              {result.faults.map((fault, i) => (
                <tr key={i}>
                  <td className="figure">{fault.line}</td>
                  <td className="figure">{fault.column}</td>
                  <td>{fault.reason}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Section>
      )}
    </div>
  );
}
