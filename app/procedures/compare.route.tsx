import { compareProcedures } from "@core";
import { Link } from "react-router";

import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/compare.route";
import { versionsOf, writtenVersion } from "./drafts.server";
import { compareSchema } from "./procedure-schemas";

export const meta: Route.MetaFunction = () => [{ title: "What changed – Humble Hound" }];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { from = 0, to = 0 } = readQuery(request, compareSchema);
    const before = await writtenVersion(params.procedureId, from);
    const after = await writtenVersion(params.procedureId, to);
    return {
      id: params.procedureId,
      title: after.title,
      from: before.version,
      to: after.version,
      change: compareProcedures(before, after),
      versions: await versionsOf(params.procedureId),
    };
  });
}

const KINDS = { added: "New", removed: "Gone", changed: "Changed", moved: "Moved" } as const;

export default function Compare({ loaderData }: Route.ComponentProps) {
  const { id, title, from, to, change, versions } = loaderData;
  const reason = versions.find((one) => one.version === to);
  return (
    <div className="max-w-4xl">
      <PageHead
        back={
          <>
            <Link to="/book/procedures">Procedures</Link> · <Link to={`/book/procedures/${id}`}>{title}</Link>
          </>
        }
        title={
          <>
            From version {from} to {to}
          </>
        }
      />
      {reason?.why && (
        <p className="mt-1">
          {reason.by}: {reason.why}
        </p>
      )}
      {change.fields.length === 0 && change.steps.length === 0 && <p className="panel mt-4 p-6">No difference.</p>}
      {change.fields.map((one) => (
        <Difference key={one.field} {...one} />
      ))}
      <ul className="mt-4 space-y-4">
        {change.steps.map((step) => (
          <li key={step.step} className="panel p-3">
            <p className="font-semibold wrap-anywhere">
              {KINDS[step.kind]}: {step.title}
            </p>
            {step.fields.map((one) => (
              <Difference key={one.field} {...one} />
            ))}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Difference({ field, before, after }: { field: string; before: string; after: string }) {
  return (
    <div className="mt-2 grid gap-x-4 sm:grid-cols-[9rem_1fr_1fr]">
      <p className="text-sm font-semibold text-ink-soft">{field}</p>
      <p className="wrap-anywhere">
        <span className="sr-only">before: </span>
        {before ? <del>{before}</del> : <span className="text-ink-soft">nothing</span>}
      </p>
      <p className="wrap-anywhere">
        <span className="sr-only">after: </span>
        {after ? (
          <ins className="font-semibold no-underline">{after}</ins>
        ) : (
          <span className="text-ink-soft">nothing</span>
        )}
      </p>
    </div>
  );
}
