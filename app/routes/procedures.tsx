import { Link } from "react-router";
import { FamilyGlyph, familyName } from "~/components/family-glyph";
import { listProcedures } from "~/services/procedures.server";
import type { Route } from "./+types/procedures";

export const meta: Route.MetaFunction = () => [{ title: "Procedures – Humble Hound" }];

export async function loader() {
  return { procedures: await listProcedures() };
}

export default function Procedures({ loaderData }: Route.ComponentProps) {
  return (
    <div className="max-w-3xl">
      <p className="text-sm">
        <Link to="/book">Book</Link>
      </p>
      <h1 className="mt-1 mb-4 text-2xl">Procedures</h1>
      {loaderData.procedures.length === 0 ? (
        <p className="panel p-6">None published yet.</p>
      ) : (
        <ul className="panel divide-y divide-line">
          {loaderData.procedures.map((one) => (
            <li key={one.id} className="relative flex items-center gap-4 px-3 py-2.5 hover:bg-sunken">
              <FamilyGlyph family={one.family} />
              <div className="min-w-0 flex-1">
                <Link to={`/book/procedures/${one.id}`} className="font-semibold after:absolute after:inset-0">
                  {one.title}
                </Link>
                <p className="text-sm text-ink-soft">{familyName(one.family)}</p>
              </div>
              <span className="figure text-sm">version {one.version}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
