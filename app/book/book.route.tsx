import { Link } from "react-router";

import { pageSchema } from "~/kit/forms/search-schemas";
import { outcomeName } from "~/kit/outcomes";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { OnDay, useDay } from "~/ui/day";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/book.route";
import { listRecords } from "./records.server";

export const meta: Route.MetaFunction = () => [{ title: "Book – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    return listRecords(readQuery(request, pageSchema).after ?? null);
  });
}

export default function Book({ loaderData }: Route.ComponentProps) {
  const { rows, next } = loaderData;
  const day = useDay();
  const lead = useIsLead();
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
        {lead && (
          <Link to="/book/people" className="btn">
            People
          </Link>
        )}
      </PageHead>
      {rows.length === 0 ? (
        <p className="panel p-6">No records yet. A sheet becomes one when it is signed.</p>
      ) : (
        <ul className="panel divide-y divide-line">
          {rows.map((row) => (
            <li
              key={row.id}
              className="relative flex flex-wrap items-center justify-between gap-x-4 gap-y-1 px-3 py-2.5 hover:bg-sunken"
            >
              <div className="min-w-0">
                <p className="font-semibold wrap-anywhere">
                  <Link to={`/book/records/${row.id}`} className="after:absolute after:inset-0">
                    {row.title}
                  </Link>
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  {row.machineName} <span className="figure">{row.machineTag}</span> · {row.siteName}
                </p>
              </div>
              <p className="text-sm sm:text-right">
                {row.status === "signed" ? "Signed" : outcomeName(row.outcome ?? "")} by {row.personName}
                <span className="figure block text-ink-soft">
                  <OnDay on={row.doneOn ?? day(row.closedAt)} />
                </span>
              </p>
            </li>
          ))}
        </ul>
      )}
      {next && (
        <Link to={`?after=${next}`} className="btn mt-4">
          Next 50
        </Link>
      )}
    </>
  );
}
