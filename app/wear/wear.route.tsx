import { Form, Link, useNavigation } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { SiteAndFamily } from "~/machines/filter-fields";
import { listFamilies } from "~/machines/machines.server";
import { useIsLead } from "~/people/use-me";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/wear.route";
import { wearFilter } from "./wear-filter.server";
import { listWear } from "./wear-list.server";
import { WearRow } from "./wear-row";
import { wearSearchSchema } from "./wear-schemas";

export const meta: Route.MetaFunction = () => [{ title: "Wear · Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const query = readQuery(request, wearSearchSchema);
    const { filter, site } = await wearFilter(query);
    const [page, families, day] = await Promise.all([
      listWear(filter, query.after ?? null, now),
      listFamilies(),
      firmDay(now),
    ]);
    return { ...page, site, family: filter.family, show: query.show ?? null, families, today: day.on };
  });
}

/** All parts whose wear is measured: what passes its limit before the next visit first. */
export default function Wear({ loaderData }: Route.ComponentProps) {
  const { rows, next, site, family, show, families, today } = loaderData;
  const lead = useIsLead();
  const busy = useNavigation().state === "loading";
  const kept = Object.fromEntries(
    Object.entries({ site, family, show }).filter(([, value]) => value !== null),
  ) as Record<string, string>;
  const isNarrowed = Object.keys(kept).length > 0;
  return (
    <div aria-busy={busy}>
      <PageHead
        back={<Link to="/machines">Machines</Link>}
        title="Wear"
        subtitle="What passes its limit before somebody sees it again, likeliest first"
      >
        <Link to="/machines/intervals" className="btn">
          Intervals
        </Link>
        {lead && (
          <Link to="/machines/wear/figures" className="btn">
            What a failure costs
          </Link>
        )}
        <a href={`/machines/wear.csv?${new URLSearchParams(kept)}`} className="btn" download>
          CSV
        </a>
      </PageHead>
      <Form method="get" role="search" key={JSON.stringify(kept)} className="mb-4 flex flex-wrap items-end gap-2">
        <SiteAndFamily site={site} family={family} families={families} />
        <div>
          <label htmlFor="show" className="block text-sm font-semibold">
            Show
          </label>
          <select id="show" name="show" className="field" defaultValue={show ?? ""}>
            <option value="">All</option>
            <option value="now">What pays to renew now</option>
          </select>
        </div>
        <button type="submit" className="btn">
          Show
        </button>
      </Form>
      {rows.length === 0 ? (
        <div className="panel p-6">
          <p className="text-lg font-semibold">{isNarrowed ? "Nothing matches." : "Nothing is measured yet."}</p>
          <p className="mt-1">
            {isNarrowed ? (
              <Link to="/machines/wear">Show all</Link>
            ) : (
              "A sheet’s measuring step that says which part it tells of brings the part here, with its first value."
            )}
          </p>
        </div>
      ) : (
        <ul className="space-y-3">
          {rows.map((row) => (
            <WearRow key={row.id} row={row} today={today} />
          ))}
        </ul>
      )}
      {next && (
        <p className="mt-4">
          <Link to={`?${new URLSearchParams({ ...kept, after: next })}`} className="btn">
            Next 50
          </Link>
        </p>
      )}
    </div>
  );
}
