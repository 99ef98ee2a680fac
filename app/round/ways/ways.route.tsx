import { useForm } from "@conform-to/react";
import { data, Form, Link } from "react-router";

import { depotPlace } from "~/kit/depot.server";
import { parseWithYup } from "~/kit/parse-form";
import { actorOf } from "~/people/session.server";
import { depotSchema } from "~/round/day/day-schemas";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/ways.route";
import { importWays, listWays, saveDepot, WAY_COLUMNS } from "./ways-csv.server";

export const meta: Route.MetaFunction = () => [{ title: "Ways – Humble Hound" }];

const MAX_BYTES = 4 * 1024 * 1024;
const SHOWN = 200;

export async function loader() {
  const ways = await listWays();
  return { ways: ways.slice(0, SHOWN), total: ways.length, columns: [...WAY_COLUMNS], depot: await depotPlace() };
}

export async function action({ request, context }: Route.ActionArgs) {
  const problem = (text: string, status = 422) => data({ problem: text, result: null, depot: null }, { status });
  if (Number(request.headers.get("content-length") ?? 0) > MAX_BYTES)
    return problem("The file is larger than 4 MB. Split it, each part with the first line.", 413);
  const formData = await request.formData();
  if (formData.get("intent") === "depot") {
    const submission = parseWithYup(formData, { schema: depotSchema });
    if (submission.status !== "success")
      return data({ problem: null, result: null, depot: submission.reply() }, { status: 422 });
    await saveDepot(actorOf(context), submission.value, new Date());
    return { problem: null, result: null, depot: submission.reply() as unknown };
  }
  const file = formData.get("file");
  if (!(file instanceof File) || file.size === 0) return problem("Choose a CSV file first. Nothing was changed.");
  let content: string;
  try {
    content = new TextDecoder("utf-8", { fatal: true }).decode(await file.arrayBuffer());
  } catch {
    return problem("This file is not UTF-8 text. Save it as CSV UTF-8 and choose it again. Nothing was changed.");
  }
  const { faults, written } = await importWays(actorOf(context), content, new Date());
  return {
    problem: null,
    result: { written, count: faults.length, faults: faults.slice(0, SHOWN) },
    depot: null as unknown,
  };
}

export default function Ways({ loaderData, actionData }: Route.ComponentProps) {
  const { ways, total, columns, depot } = loaderData;
  const result = actionData?.result;
  const [form, fields] = useForm({
    id: "depot",
    lastResult: actionData?.depot ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: depotSchema }),
    shouldValidate: "onSubmit",
    defaultValue: depot ?? undefined,
  });
  return (
    <div className="max-w-3xl">
      <p className="text-sm">
        <Link to="/round/week">The week</Link>
      </p>
      <h1 className="mt-1 text-2xl">Ways</h1>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate} className="panel my-4 p-5">
        <h2 className="mb-2 text-lg">Where rounds begin and end</h2>
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
      {actionData?.problem && <Notice tone="problem">{actionData.problem}</Notice>}
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
