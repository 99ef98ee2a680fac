import { Form, Link } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { dustWords } from "~/machines/sites/dust";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";

import type { Route } from "./+types/found.route";
import { foundTable } from "./found.server";
import { explainedWords } from "./found-by-site";
import { foundSearchSchema } from "./interval-schemas";

export const meta: Route.MetaFunction = () => [{ title: "How machines were found · Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const { procedure } = readQuery(request, foundSearchSchema);
    return foundTable(procedure ?? null, (await firmDay(now)).on, now);
  });
}

const share = (count: number, of: number): string => `${Math.round((count / of) * 100)} %`;

/** How machines of one procedure were found at services, site beside site. */
export default function Found({ loaderData }: Route.ComponentProps) {
  const { procedures, procedureId, sites, explained } = loaderData;
  return (
    <>
      <PageHead
        back={<Link to="/machines/intervals">Intervals</Link>}
        title="How machines were found"
        subtitle="One procedure, site beside site, in the last three years"
      >
        {procedureId && (
          <a href={`/machines/intervals/found.csv?procedure=${procedureId}`} className="btn" download>
            CSV
          </a>
        )}
      </PageHead>
      {procedureId === null ? (
        <div className="panel p-6">
          <p className="text-lg font-semibold">Nothing was found yet.</p>
          <p className="mt-1">At the end of a service a sheet asks how the machine was found.</p>
        </div>
      ) : (
        <>
          <Form method="get" key={procedureId} className="mb-4 flex flex-wrap items-end gap-2">
            <div className="min-w-0">
              <label htmlFor="procedure" className="mb-1 block font-semibold">
                Procedure
              </label>
              <select id="procedure" name="procedure" className="field" defaultValue={procedureId}>
                {procedures.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.title} ({one.n})
                  </option>
                ))}
              </select>
            </div>
            <button type="submit" className="btn">
              Show
            </button>
          </Form>
          <Table caption="Sites beside each other" panel className="min-w-160 text-left">
            <thead>
              <tr className="border-b border-line text-sm">
                {[
                  "Site",
                  "Water, mg/L",
                  "Dust",
                  "Machines",
                  "Services",
                  "Clean",
                  "Fair",
                  "Poor",
                  "Failed",
                  "Days between",
                ].map((name) => (
                  <th key={name} scope="col" className="py-1 pr-4">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {sites.map((one) => (
                <tr key={one.siteId} className="border-b border-line">
                  <th scope="row" className="min-w-36 py-1 pr-4 font-normal wrap-anywhere">
                    <Link to={`/sites/${one.siteId}`}>{one.siteName}</Link>
                  </th>
                  <td className="figure pr-4">{one.water ?? "–"}</td>
                  <td className="pr-4">{dustWords(one.dust)}</td>
                  <td className="figure pr-4">{one.machines}</td>
                  <td className="figure pr-4">{one.n}</td>
                  {[one.clean, one.fair, one.poor, one.failed].map((count, i) => (
                    <td key={i} className="figure pr-4 whitespace-nowrap">
                      {count} <span className="text-ink-soft">({share(count, one.n)})</span>
                    </td>
                  ))}
                  <td className="figure pr-4">{one.meanDays === null ? "–" : Math.round(one.meanDays)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          <Section id="explained" title="What goes with it" className="mt-6">
            <ul className="list-disc space-y-1 pl-5">
              {explained.map((one) => (
                <li key={one.cause}>{explainedWords(one)}</li>
              ))}
            </ul>
            <p className="mt-2 text-sm text-ink-soft">
              What goes together need not be the cause. Each site counts once, and each machine once, however many
              services it had.
            </p>
          </Section>
        </>
      )}
    </>
  );
}
