import { data, Form, Link } from "react-router";

import { actorOf } from "~/people/session.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/stock-import.route";
import { importStock } from "./stock-csv.server";

export const meta = () => [{ title: "Stock from a file – Humble Hound" }];

const MOST_BYTES = 4 * 1024 * 1024;

export async function action({ request, context }: Route.ActionArgs) {
  const file = (await request.formData()).get("file");
  if (!(file instanceof File) || file.size === 0)
    return data({ faults: [{ line: 0, column: "", reason: "Choose a file." }], written: 0 }, { status: 422 });
  if (file.size > MOST_BYTES)
    return data(
      { faults: [{ line: 0, column: "", reason: "The file is larger than 4 MB. Send it in parts." }], written: 0 },
      { status: 413 },
    );
  const now = new Date();
  const done = await importStock(actorOf(context), await file.text(), now);
  if (done.written > 0) await refreshOutlook(now);
  return data(done, { status: done.faults.length > 0 ? 422 : 200 });
}

export default function StockImport({ actionData }: Route.ComponentProps) {
  return (
    <div className="max-w-2xl">
      <h1 className="mb-2 text-2xl">Stock from a file</h1>
      <StoreNav />
      {actionData && actionData.written > 0 && (
        <div className="mb-4">
          <Notice>
            {actionData.written} {actionData.written === 1 ? "row is" : "rows are"} on the books.
          </Notice>
        </div>
      )}
      {actionData && actionData.faults.length > 0 && (
        <div className="mb-4">
          <Notice tone="problem" title="Nothing was taken over. Mend these and send the file again:">
            <ul className="list-disc pl-5">
              {actionData.faults.slice(0, 50).map((fault, i) => (
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
          <a href="/stores.csv">goes out</a> comes in as it is.
        </p>
        <div>
          <label htmlFor="file" className="mb-1 block font-semibold">
            CSV file
          </label>
          <input id="file" type="file" name="file" accept=".csv,text/csv" className="field" />
        </div>
        <button className="btn btn-main">Take it over</button>
        <p className="text-sm">
          <Link to="/stores/places">Places</Link>
        </p>
      </Form>
    </div>
  );
}
