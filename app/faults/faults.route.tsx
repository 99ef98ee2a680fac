import { Link } from "react-router";

import { served } from "~/kit/server/served.server";
import { FamilyGlyph } from "~/ui/family-glyph";
import { familyName } from "~/ui/family-names";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/faults.route";
import { listGuides } from "./faults.server";

export const meta: Route.MetaFunction = () => [{ title: "Faults · Humble Hound" }];

export function loader() {
  return served(async () => ({ guides: await listGuides() }));
}

/** The guides of all families. */
export default function Faults({ loaderData: { guides } }: Route.ComponentProps) {
  return (
    <>
      <PageHead back={<Link to="/machines">Machines</Link>} title="Faults" />
      {guides.length === 0 ? (
        <p className="panel p-4">No guides yet: a lead publishes those that ship, under First steps.</p>
      ) : (
        <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {guides.map(({ family, title, found }) => (
            <li key={family}>
              <Link to={`/machines/faults/${family}`} className="panel flex h-full items-center gap-3 p-3 no-underline">
                <FamilyGlyph family={family} size={44} />
                <span className="min-w-0 wrap-anywhere">
                  <span className="block font-semibold underline">{familyName(family)}</span>
                  <span className="block text-sm text-ink-soft">
                    {title}
                    {found > 0 && ` · ${found} found`}
                  </span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
