import { Form, Link, useNavigation } from "react-router";

import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { FAMILIES, FamilyGlyph, familyName } from "~/ui/family-glyph";

import type { Route } from "./+types/machines.route";
import { countMachines, listFamilies, listMachines } from "./machines.server";

export const meta: Route.MetaFunction = () => [{ title: "Machines – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { q = null, family = null, site: siteId = null, after = null } = readQuery(request, machineSearchSchema);
    const filter = { q, family, siteId, after };
    return { ...(await listMachines(filter)), filter, families: await listFamilies(), total: await countMachines() };
  });
}

export default function Machines({ loaderData }: Route.ComponentProps) {
  const { rows, next, filter, families, total } = loaderData;
  const lead = useIsLead();
  const busy = useNavigation().state === "loading";
  const kept = Object.fromEntries(
    Object.entries({ q: filter.q, family: filter.family, site: filter.siteId }).filter(([, value]) => value),
  ) as Record<string, string>;
  return (
    <div aria-busy={busy}>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-2xl">Machines</h1>
          <p className="text-ink-soft">
            <span className="figure">{total.toLocaleString("en")}</span> in the register
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Link to="/sites" className="btn">
            Sites
          </Link>
          {lead && (
            <Link to="/machines/import" className="btn">
              Import CSV
            </Link>
          )}
          {lead && (
            <Link to={`/machines/change?${new URLSearchParams(kept)}`} className="btn">
              Change many
            </Link>
          )}
          <Link to="/machines/readings" className="btn">
            Readings
          </Link>
          {lead && (
            <Link to="/machines/gateway" className="btn">
              Gateway
            </Link>
          )}
          <a href="/machines/export.csv" className="btn" download>
            Export CSV
          </a>
          <a href="/machines/export.json" className="btn" download>
            JSON
          </a>
        </div>
      </div>

      <Form method="get" role="search" className="mb-4 flex flex-wrap items-end gap-2">
        <div className="min-w-52 flex-1">
          <label htmlFor="q" className="block text-sm font-semibold">
            Name, tag, serial, maker or site
          </label>
          <input id="q" name="q" type="search" className="field" defaultValue={filter.q ?? ""} />
        </div>
        <div>
          <label htmlFor="family" className="block text-sm font-semibold">
            Family
          </label>
          <select id="family" name="family" className="field" defaultValue={filter.family ?? ""}>
            <option value="">All families</option>
            {families.map((family) => (
              <option key={family} value={family}>
                {familyName(family)}
              </option>
            ))}
          </select>
        </div>
        <button className="btn btn-main">Find</button>
      </Form>

      {rows.length === 0 ? (
        <div className="panel p-6">
          {total === 0 ? (
            <>
              <p className="text-lg font-semibold">The register is empty.</p>
              <p className="mt-1">
                {lead ? "Import a CSV file: one line a machine." : "A lead can import it from a CSV file."}
              </p>
            </>
          ) : (
            <>
              <p className="text-lg font-semibold">No machine matches.</p>
              <p className="mt-1">
                Try the beginning of a word, or <Link to="/machines">show all</Link>.
              </p>
            </>
          )}
        </div>
      ) : (
        <ul className="panel divide-y divide-line">
          {rows.map((row) => (
            <li key={row.id} className="relative flex items-center gap-4 px-3 py-2.5 hover:bg-sunken">
              <FamilyGlyph family={row.family} />
              <div className="min-w-0 flex-1">
                <p className="font-semibold wrap-anywhere">
                  <Link to={`/machines/${row.id}`} className="after:absolute after:inset-0">
                    {row.name}
                  </Link>
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  {FAMILIES[row.family] ?? familyName(row.family)} · {row.siteName}
                  {row.area && `, ${row.area}`}
                </p>
                {row.outOfService ? <p className="text-sm font-bold">! Out of service</p> : null}
              </div>
              <p className="figure text-right text-sm">
                {row.tag}
                <span className="block max-w-40 truncate text-xs text-ink-soft">{row.serial}</span>
              </p>
            </li>
          ))}
        </ul>
      )}
      <div className="mt-4 flex gap-2">
        {filter.after && (
          <Link to={`?${new URLSearchParams(kept)}`} className="btn">
            First page
          </Link>
        )}
        {next && (
          <Link to={`?${new URLSearchParams({ ...kept, after: next })}`} className="btn">
            Next 50
          </Link>
        )}
      </div>
    </div>
  );
}
