import { data, Form, Link } from "react-router";

import { actorOf } from "~/people/session.server";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/meter-import.route";
import { importReadings, METER_COLUMNS } from "./meter-csv.server";

export const meta: Route.MetaFunction = () => [{ title: "Meter readings from a file – Humble Hound" }];

const MAX_BYTES = 8 * 1024 * 1024;
const SHOWN = 200;

export function loader() {
  return { columns: [...METER_COLUMNS] };
}

export async function action({ request, context }: Route.ActionArgs) {
  const problem = (text: string, status = 422) => data({ problem: text, result: null }, { status });
  if (Number(request.headers.get("content-length") ?? 0) > MAX_BYTES)
    return problem("The file is larger than 8 MB. Split it, each part with the first line.", 413);
  const formData = await request.formData();
  const file = formData.get("file");
  if (!(file instanceof File) || file.size === 0) return problem("Choose a CSV file first. Nothing was changed.");
  let content: string;
  try {
    content = new TextDecoder("utf-8", { fatal: true }).decode(await file.arrayBuffer());
  } catch {
    return problem("This file is not UTF-8 text. Save it as CSV UTF-8 and choose it again. Nothing was changed.");
  }
  const result = await importReadings(actorOf(context), content, formData.get("takeGood") === "on", new Date());
  return {
    problem: null,
    result: { ...result, faultCount: result.faults.length, faults: result.faults.slice(0, SHOWN) },
  };
}

export default function MeterImport({ loaderData, actionData }: Route.ComponentProps) {
  const result = actionData?.result;
  return (
    <div className="max-w-3xl">
      <p className="text-sm">
        <Link to="/machines">Machines</Link>
      </p>
      <h1 className="mt-1 mb-4 text-2xl">Meter readings from a file</h1>
      {actionData?.problem && <Notice tone="problem">{actionData.problem}</Notice>}
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
        <SubmitButton>Take the readings</SubmitButton>
        <p className="mt-3 text-sm">
          Columns: <span className="figure">{loaderData.columns.join(", ")}</span>. The time is a day, or an instant
          with its offset. The same row counts once, however often it is sent.
        </p>
      </Form>
      {result && result.faults.length > 0 && (
        <section className="panel mt-4 overflow-x-auto p-4" aria-labelledby="faults">
          <h2 id="faults" className="mb-2 text-lg">
            Faults
          </h2>
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
        </section>
      )}
    </div>
  );
}
