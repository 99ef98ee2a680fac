import { lazy, Suspense } from "react";
import { Link } from "react-router";

import { inPercent } from "~/kit/in-percent";
import { served } from "~/kit/server/served.server";
import { costSpan } from "~/stores/costs/cost-span.server";
import { groupName, SpanForm } from "~/stores/costs/span-form";
import { StoreNav } from "~/stores/items/store-nav";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";
import { useHydrated } from "~/ui/use-hydrated";
import { Why } from "~/ui/why";

import type { Route } from "./+types/down-time.route";
import { causesFound, downRows } from "./down-time.server";
import { groupBecause, hoursWords, rowBecause, shareWords } from "./holding-up-words";

const CausesChart = lazy(() => import("./causes-chart"));
/** More bars than this cannot be told apart. */
const DRAWN = 12;

export const meta: Route.MetaFunction = () => [{ title: "How machines hold up · Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const span = await costSpan(request, now);
    const [rows, causes] = await Promise.all([
      downRows(span.by, span.from, span.to, now),
      causesFound(span.from, span.to),
    ]);
    return { ...span, rows, causes };
  });
}

/** Time between failures, time until it is back and the share of time it could be used; and what the causes were. */
export default function DownTime({ loaderData }: Route.ComponentProps) {
  const { by, from, to, rows, causes } = loaderData;
  const hydrated = useHydrated();
  const query = new URLSearchParams({ by, from, to }).toString();
  return (
    <>
      <PageHead back={<Link to="/stores/costs">Costs</Link>} title="How machines hold up" />
      <StoreNav />
      <SpanForm by={by} from={from} to={to} csv="/stores/costs/down-time/figures.csv" />
      {rows.length === 0 ? (
        <p className="panel p-5">
          {by === "machine" ? "No machine was down in this span." : "No machine was there in this span."}
        </p>
      ) : (
        <>
          <Why because={groupBecause(by)} summary="What counts?" />
          <Table caption="How machines hold up" panel className="min-w-xl">
            <thead>
              <tr>
                <th scope="col">{groupName(by)}</th>
                <th scope="col" className="text-right">
                  Machines
                </th>
                <th scope="col" className="text-right">
                  Failures
                </th>
                <th scope="col" className="text-right">
                  Between failures
                </th>
                <th scope="col" className="text-right">
                  Until it is back
                </th>
                <th scope="col" className="text-right">
                  Could be used
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.key}>
                  <td className="wrap-anywhere">
                    {by === "machine" ? <Link to={`/machines/${row.key}/fault`}>{row.name}</Link> : row.name}
                    <Why because={rowBecause(row)} />
                  </td>
                  <td className="figure text-right">{row.machines}</td>
                  <td className="figure text-right">{row.failures}</td>
                  <td className="figure text-right">{row.mtbfHours === null ? "–" : hoursWords(row.mtbfHours)}</td>
                  <td className="figure text-right">{row.mttrHours === null ? "–" : hoursWords(row.mttrHours)}</td>
                  <td className="figure text-right">{shareWords(row.availability)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </>
      )}
      <Section id="causes" title="Causes found" className="mt-7">
        {causes.length === 0 ? (
          <p className="panel p-4">None found with a fault guide in this span.</p>
        ) : (
          <div className="panel p-4">
            {hydrated && (
              <Suspense fallback={<div className="h-80" />}>
                <CausesChart rows={causes.slice(0, DRAWN)} />
              </Suspense>
            )}
            <Table caption="Causes by how often they were found">
              <thead>
                <tr>
                  <th scope="col">Cause</th>
                  <th scope="col">Family</th>
                  <th scope="col" className="text-right">
                    Found
                  </th>
                  <th scope="col" className="text-right">
                    With those above
                  </th>
                </tr>
              </thead>
              <tbody>
                {causes.map(({ id, name, family, n, together }) => (
                  <tr key={id}>
                    <td className="wrap-anywhere">{name}</td>
                    <td>{family}</td>
                    <td className="figure text-right">{n}</td>
                    <td className="figure text-right">{inPercent(together)}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
            <p className="mt-3">
              <a href={`/stores/costs/down-time/causes.csv?${query}`} className="btn">
                Causes as CSV
              </a>
            </p>
          </div>
        )}
      </Section>
    </>
  );
}
