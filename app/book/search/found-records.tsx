import { Link } from "react-router";

import { outcomeName } from "~/kit/outcomes";
import { exceptionWords } from "~/sheet/summaries/exceptions";
import { OnDay } from "~/ui/day";
import { Empty } from "~/ui/empty";

import type { Data } from "./book-data";
import { asQuery } from "./search-schema";

/** The records of a page, and the way to the next. */
export function FoundRecords({
  rows,
  next,
  after,
  narrowed,
  problem,
}: Pick<Data, "rows" | "next" | "after" | "narrowed" | "problem">) {
  const query = asQuery(narrowed);
  if (rows.length === 0) return <NoRecords narrowed={Object.keys(query).length > 0} problem={problem} />;
  return (
    <>
      <ul className="panel divide-y divide-line" aria-label="Records">
        {rows.map((row) => (
          <li
            key={row.id}
            className="relative flex flex-wrap items-start justify-between gap-x-4 gap-y-1 px-3 py-2.5 hover:bg-sunken"
          >
            <div className="min-w-0 flex-1 basis-64">
              <p className="font-semibold wrap-anywhere">
                <Link to={`/book/records/${row.id}`} className="after:absolute after:inset-0">
                  {row.title}
                </Link>
              </p>
              <p className="text-sm text-ink-soft wrap-anywhere">
                {row.machineName} <span className="figure">{row.machineTag}</span> · {row.siteName}
              </p>
              {row.exceptions !== 0 && (
                <p className="text-sm font-semibold">
                  <span aria-hidden="true">! </span>
                  {exceptionWords(row.exceptions)}
                </p>
              )}
            </div>
            <p className="text-sm sm:text-right">
              {row.outcome === "signed" ? "Signed" : outcomeName(row.outcome)} by {row.personName}
              <span className="block text-ink-soft">
                <OnDay on={row.onDay} />
                {row.number !== null && <> · no. {row.number}</>}
              </span>
            </p>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex gap-2">
        {after && (
          <Link to={{ search: `?${new URLSearchParams(query)}` }} className="btn">
            First page
          </Link>
        )}
        {next && (
          <Link to={{ search: `?${new URLSearchParams({ ...query, after: next })}` }} className="btn">
            Next 50
          </Link>
        )}
      </div>
    </>
  );
}

function NoRecords({ narrowed, problem }: { narrowed: boolean; problem: string | null }) {
  if (problem !== null) return <Empty title="Nothing was looked for.">{problem}</Empty>;
  if (!narrowed) return <Empty>No records yet. A sheet becomes one when it is signed.</Empty>;
  return (
    <Empty title="No record fits.">
      Take one of the conditions away, or <Link to="/book">show the whole book</Link>.
    </Empty>
  );
}
