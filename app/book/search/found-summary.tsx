import { clsx } from "clsx";
import { Form, Link } from "react-router";

import { capital } from "~/kit/capital";
import { exceptionName } from "~/sheet/summaries/exceptions";
import { useDayWords } from "~/ui/day";

import type { Data } from "./book-data";
import { asQuery, type Narrowed } from "./search-schema";

/** What was found, before the records: by what, how many, what is not as it should be in them; and how it is handed over. */
export function FoundSummary({
  narrowed,
  said,
  spans,
  counted,
  exactTo,
  problem,
}: Pick<Data, "narrowed" | "said" | "spans" | "counted" | "exactTo" | "problem">) {
  const { total, any, each } = counted;
  const more = total > exactTo;
  const count = more ? `More than ${exactTo.toLocaleString("en")}` : total.toLocaleString("en");
  return (
    <section aria-label="What was found" className="mb-3 border-y border-line py-2">
      <NarrowedBy narrowed={narrowed} said={said} spans={spans} />
      {problem === null && (
        <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
          <p role="status">
            <strong>
              {count} {total === 1 ? "record" : "records"}
            </strong>
            {total > 0 && !narrowed.with && ` · ${any === 0 ? "none" : any.toLocaleString("en")} with exceptions`}
            {more && !narrowed.with && ` among the newest ${exactTo.toLocaleString("en")}`}
          </p>
          {total > 0 && <HandOver narrowed={narrowed} />}
        </div>
      )}
      {each.length > 0 && (
        <ul className="flex flex-wrap gap-x-4" aria-label="Exceptions in them">
          {any > 0 && <Exception narrowed={narrowed} name="any" words="All exceptions" count={any} />}
          {each.map((one) => (
            <Exception
              key={one.name}
              narrowed={narrowed}
              name={one.name}
              words={exceptionName(one.name)}
              count={one.count}
            />
          ))}
        </ul>
      )}
    </section>
  );
}

/** What the book is narrowed by, each to be taken away. */
function NarrowedBy({ narrowed, said, spans }: Pick<Data, "narrowed" | "said" | "spans">) {
  const day = useDayWords();
  const { from, to } = narrowed;
  const all = [
    ...said.map(({ by, words }) => ({ without: { [by]: undefined }, words })),
    ...(from || to
      ? [
          {
            without: { from: undefined, to: undefined },
            words:
              spans.find((one) => one.from === from && one.to === to)?.name ??
              capital([from && `from ${day(from)}`, to && `to ${day(to)}`].filter(Boolean).join(" ")),
          },
        ]
      : []),
  ];
  if (all.length === 0) return null;
  return (
    <ul className="no-print mb-1 flex flex-wrap gap-2" aria-label="Narrowed by">
      {all.map(({ without, words }) => (
        <li key={words}>
          <Link
            to={{ search: `?${new URLSearchParams(asQuery({ ...narrowed, ...without }))}` }}
            className="btn max-w-full wrap-anywhere"
            aria-label={`Without ${words}`}
          >
            {words} <span aria-hidden="true">×</span>
          </Link>
        </li>
      ))}
      {all.length > 1 && (
        <li>
          <Link to="/book" className="inline-block min-h-11 py-2">
            The whole book
          </Link>
        </li>
      )}
    </ul>
  );
}

function Exception({
  narrowed,
  name,
  words,
  count,
}: {
  narrowed: Narrowed;
  name: NonNullable<Narrowed["with"]>;
  words: string;
  count: number;
}) {
  const current = narrowed.with === name;
  return (
    <li>
      <Link
        to={{ search: `?${new URLSearchParams(asQuery({ ...narrowed, with: name }))}` }}
        aria-current={current ? "true" : undefined}
        className={clsx("inline-block min-h-11 py-2", current && "font-bold")}
        preventScrollReset
      >
        {words} <span className="figure">{count.toLocaleString("en")}</span>
      </Link>
    </li>
  );
}

/** What was found, put together in the background. */
function HandOver({ narrowed }: { narrowed: Narrowed }) {
  return (
    <Form method="post" className="no-print flex flex-wrap gap-2">
      {Object.entries(asQuery(narrowed)).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={value} />
      ))}
      <button name="intent" value="records-pdf" className="btn">
        One PDF of these
      </button>
      <button name="intent" value="readings-csv" className="btn">
        Readings as CSV
      </button>
    </Form>
  );
}
