import { Form, Link } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { tableSchema } from "~/kit/forms/table-schema";
import { fileText } from "~/kit/server/file-text.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { DayOrderField } from "~/ui/day-order-field";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/stock-import.route";
import { importStock } from "./stock-csv.server";

export const meta = () => [{ title: "Stock from a file – Humble Hound" }];

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    take: form(tableSchema, async ({ file, dayOrder = null }, who, now) => {
      const done = await importStock(who, await fileText(file), now, dayOrder);
      if (done.written > 0) await refreshOutlook(now);
      return { result: done };
    }),
  });
}

export default function StockImport({ actionData }: Route.ComponentProps) {
  const done = actionData?.result ?? null;
  const problem = allFaults(answerTo(actionData, "take"));
  return (
    <div className="max-w-2xl">
      <PageHead title="Stock from a file" />
      <StoreNav />
      {problem && <Notice tone="problem">{problem}</Notice>}
      {done && done.written > 0 && (
        <div className="mb-4">
          <Notice>
            {done.written} {done.written === 1 ? "row is" : "rows are"} on the books.
          </Notice>
        </div>
      )}
      {done && done.faults.length > 0 && (
        <div className="mb-4">
          <Notice tone="problem" title="Nothing was taken over. Mend these and send the file again:">
            <ul className="list-disc pl-5">
              {done.faults.slice(0, 50).map((fault, i) => (
                <li key={i}>
                  {fault.line > 0 && `Line ${fault.line}`}
                  {fault.column && `, ${fault.column}`}
                  {fault.line > 0 && ": "}
                  {fault.reason}
                </li>
              ))}
            </ul>
          </Notice>
        </div>
      )}
      <Form method="post" encType="multipart/form-data" className="panel space-y-3 p-4">
        <p>
          Books every row as received: columns <code>place</code>, <code>item</code> (its short word or the code on it),{" "}
          <code>quantity</code>, and if known <code>lot</code> and <code>expires_on</code>. The file that{" "}
          <a href="/stores.csv">goes out</a> comes in as it is;{" "}
          <a href="/stores/import.csv" download>
            a file to fill in
          </a>{" "}
          has an example.
        </p>
        <div>
          <label htmlFor="file" className="mb-1 block font-semibold">
            CSV file
          </label>
          <input id="file" type="file" name="file" accept=".csv,text/csv" className="field" />
        </div>
        <DayOrderField />
        <button className="btn btn-main">Take it over</button>
        <p className="text-sm">
          <Link to="/stores/places">Places</Link>
        </p>
      </Form>
    </div>
  );
}
