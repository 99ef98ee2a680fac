import { Form, Link } from "react-router";

import { wordsSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/sites.route";
import { findSites } from "./sites.server";

export const meta: Route.MetaFunction = () => [{ title: "Sites – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { q = null, after = null } = readQuery(request, wordsSchema);
    return { ...(await findSites({ q, after })), q };
  });
}

export default function Sites({ loaderData }: Route.ComponentProps) {
  const { rows, next, q } = loaderData;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        title="Sites"
      >
        <Link to="/sites/new" className="btn">
          Add a site
        </Link>
      </PageHead>
      <Form method="get" role="search" className="mb-4 flex items-end gap-2">
        <div className="min-w-52 flex-1">
          <label htmlFor="q" className="block text-sm font-semibold">
            Site or customer
          </label>
          <input id="q" name="q" type="search" className="field" defaultValue={q ?? ""} />
        </div>
        <button className="btn btn-main">Find</button>
      </Form>
      {rows.length === 0 ? (
        <div className="panel p-6">
          <p className="text-lg font-semibold">{q ? "No site begins like that." : "No sites yet."}</p>
          <p className="mt-1">
            {q ? <Link to="/sites">Show all</Link> : <Link to="/sites/new">Add the first one</Link>}
          </p>
        </div>
      ) : (
        <ul className="panel divide-y divide-line">
          {rows.map((row) => (
            <li key={row.id} className="relative flex flex-wrap justify-between gap-x-4 px-3 py-2.5 hover:bg-sunken">
              <div className="min-w-0">
                <p className="font-semibold wrap-anywhere">
                  <Link to={`/sites/${row.id}`} className="after:absolute after:inset-0">
                    {row.name}
                  </Link>
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  {row.customerName}
                  {row.address && ` · ${row.address}`}
                </p>
              </div>
              <p className="text-right text-sm">
                <span className="figure">{row.machines}</span> {row.machines === 1 ? "machine" : "machines"}
                <span className="block text-ink-soft">{row.accessHours}</span>
              </p>
            </li>
          ))}
        </ul>
      )}
      {next && (
        <p className="mt-4">
          <Link to={`?${new URLSearchParams({ ...(q ? { q } : {}), after: next })}`} className="btn">
            Next 50
          </Link>
        </p>
      )}
    </>
  );
}
