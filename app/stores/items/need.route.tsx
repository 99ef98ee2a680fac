import { Form, Link } from "react-router";

import { UUID } from "~/kit/forms/fields";
import { quantity } from "~/kit/forms/quantity";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { OnDay } from "~/ui/day";
import { PageHead } from "~/ui/page-head";
import { Table } from "~/ui/table";

import type { Route } from "./+types/need.route";
import { spanNeeds } from "./span-needs.server";
import { StoreNav } from "./store-nav";
import { needSchema } from "./stores-schemas";

export const meta = () => [{ title: "What a span takes – Humble Hound" }];

const USUAL_DAYS = 30;
/** Duties that an address may name. */
const MOST_DUTIES = 200;

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const days = readQuery(request, needSchema).days ?? USUAL_DAYS;
    const asked = new URL(request.url).searchParams.getAll("duty");
    const chosen = asked.filter((one) => UUID.test(one)).slice(0, MOST_DUTIES);
    return { ...(await spanNeeds({ days, dutyIds: chosen.length > 0 ? chosen : null }, new Date())), days, chosen };
  });
}

const SPANS = [7, 30, 90, 180, 365];

export default function StoreNeed({ loaderData }: Route.ComponentProps) {
  const { rows, until, days, chosen } = loaderData;
  const short = rows.filter((row) => row.short > 0).length;
  return (
    <>
      <PageHead title="What a span takes" />
      <StoreNav />
      <Form method="get" className="mb-4 flex flex-wrap items-end gap-3">
        {chosen.map((duty) => (
          <input key={duty} type="hidden" name="duty" value={duty} />
        ))}
        <div>
          <label htmlFor="days" className="mb-1 block font-semibold">
            The next
          </label>
          <select id="days" name="days" defaultValue={String(days)} className="field">
            {[...new Set([...SPANS, days])]
              .sort((a, b) => a - b)
              .map((one) => (
                <option key={one} value={one}>
                  {one} days
                </option>
              ))}
          </select>
        </div>
        <button className="btn">Show</button>
        <p className="min-w-0 flex-1 basis-64 text-sm text-ink-soft">
          {chosen.length > 0 ? `${chosen.length} chosen ${chosen.length === 1 ? "duty" : "duties"}` : "Every duty"} that
          comes due until <OnDay on={until} />, repeats included; what is late counts once, today.{" "}
          {short > 0 && <strong className="text-ink">! {short} short.</strong>}
        </p>
      </Form>
      {rows.length === 0 ? (
        <p className="panel p-5">Nothing that comes due in this span takes anything from the stores.</p>
      ) : (
        <Table caption="What the span takes" panel className="min-w-lg">
          <thead>
            <tr>
              <th scope="col">Item</th>
              <th scope="col" className="text-right">
                Surely
              </th>
              <th scope="col" className="text-right">
                Likely besides
              </th>
              <th scope="col" className="text-right">
                There
              </th>
              <th scope="col" className="text-right">
                Short
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.itemId}>
                <td className="wrap-anywhere">
                  <Link to={`/stores/items/${encodeURIComponent(row.itemId)}`}>{row.name}</Link>
                  {row.services > 0 && (
                    <span className="block text-sm text-ink-soft">
                      {row.services} {row.services === 1 ? "service" : "services"}
                    </span>
                  )}
                </td>
                <td className="figure text-right">{row.sure > 0 ? quantity(row.sure, row.unit) : ""}</td>
                <td className="figure text-right">
                  {row.likely > 0 ? quantity(Math.round(row.likely * 10) / 10 || row.likely, row.unit) : ""}
                </td>
                <td className="figure text-right">{quantity(row.onHand, row.unit)}</td>
                <td className="figure text-right">
                  {row.short > 0 && <strong>! {quantity(row.short, row.unit)}</strong>}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </>
  );
}
