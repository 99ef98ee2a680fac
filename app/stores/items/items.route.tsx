import { Form, Link } from "react-router";

import { money, quantity } from "~/kit/forms/quantity";
import { wordsSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { PageHead } from "~/ui/page-head";
import { Table } from "~/ui/table";

import type { Route } from "./+types/items.route";
import { listItems } from "./catalogue.server";
import { StoreNav } from "./store-nav";

export const meta = () => [{ title: "Items – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { q = null, after = null } = readQuery(request, wordsSchema);
    return { ...(await listItems({ q, after })), q };
  });
}

export default function StoreItems({ loaderData }: Route.ComponentProps) {
  const { rows, next, q } = loaderData;
  const lead = useIsLead();
  return (
    <>
      <PageHead title="Items" />
      <StoreNav />
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <Form method="get" role="search" className="flex items-end gap-2">
          <div>
            <label htmlFor="q" className="mb-1 block font-semibold">
              Name or code
            </label>
            <input
              id="q"
              name="q"
              className="field"
              defaultValue={q ?? ""}
              key={q}
              placeholder="Scan or type"
              autoComplete="off"
            />
          </div>
          <button className="btn">Find</button>
        </Form>
        {lead && (
          <Link to="/stores/items/new/edit" className="btn">
            Add an item
          </Link>
        )}
      </div>
      {rows.length === 0 ? (
        <p className="panel p-5">
          {q
            ? `Nothing in the catalogue begins like “${q}”.`
            : "The catalogue is empty. Items come with procedures, or add the first yourself."}
        </p>
      ) : (
        <Table caption="Items" panel className="min-w-md">
          <thead>
            <tr>
              <th scope="col">Item</th>
              <th scope="col" className="text-right">
                In all
              </th>
              <th scope="col">Pack</th>
              <th scope="col">Supplier</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id}>
                <td className="wrap-anywhere">
                  <Link to={`/stores/items/${encodeURIComponent(row.id)}`} className="font-semibold">
                    {row.name}
                  </Link>
                  <span className="block text-sm text-ink-soft">{row.kind}</span>
                </td>
                <td className="figure text-right">
                  {row.countAsked && <strong title="Please count">! </strong>}
                  {row.kind === "tool" || row.kind === "protective"
                    ? row.onHand === 0
                      ? ""
                      : row.onHand
                    : quantity(row.onHand, row.unit)}
                </td>
                <td className="text-sm">
                  {row.packName || quantity(row.packSize, row.unit)}
                  {row.packPriceCents !== null && (
                    <span className="figure block text-ink-soft">{money(row.packPriceCents)}</span>
                  )}
                </td>
                <td className="text-sm wrap-anywhere">{row.supplierName ?? ""}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {next && (
        <p className="mt-3">
          <Link to={`?${new URLSearchParams({ ...(q ? { q } : {}), after: next })}`} className="btn">
            More
          </Link>
        </p>
      )}
    </>
  );
}
