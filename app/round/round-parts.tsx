import { Link } from "react-router";

import { Day } from "~/ui/day";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";

import type { Route } from "./+types/round.route";

type Data = Route.ComponentProps["loaderData"];

export function OutOfService({ holds }: { holds: Data["holds"] }) {
  if (holds.length === 0) return null;
  return (
    <Section id="out-of-service" title="Out of service" className="mb-6">
      <ul className="panel divide-y divide-line border-2 border-ink">
        {holds.map((hold) => (
          <li key={hold.id} className="relative px-3 py-2 hover:bg-sunken">
            <p className="font-semibold wrap-anywhere">
              <span aria-hidden="true">! </span>
              {hold.reason}
            </p>
            <p className="text-sm text-ink-soft wrap-anywhere">
              <Link to={`/machines/${hold.machineId}`} className="after:absolute after:inset-0">
                {hold.machineName}
              </Link>
              , {hold.siteName} · {hold.byName}, <Day at={hold.since} />
            </p>
          </li>
        ))}
      </ul>
    </Section>
  );
}

export function Reported({ reports }: { reports: Data["reports"] }) {
  if (reports.length === 0) return null;
  return (
    <Section id="reported" title="Reported by operators" className="mb-6">
      <ul className="panel divide-y divide-line border-2 border-ink">
        {reports.map((report) => (
          <li key={report.id} className="relative px-3 py-2 hover:bg-sunken">
            <p className="wrap-anywhere">
              {report.stopped ? <strong>Machine stopped: </strong> : null}
              {report.text}
            </p>
            <p className="text-sm text-ink-soft wrap-anywhere">
              <Link to={`/machines/${report.machineId}`} className="after:absolute after:inset-0">
                {report.machineName}
              </Link>
              , {report.siteName} · {report.name}, <Day at={report.loggedAt} />
            </p>
          </li>
        ))}
      </ul>
    </Section>
  );
}

export function NothingDue({
  rows,
  machines,
  siteId,
  begins,
}: {
  rows: Data["rows"];
  machines: Data["machines"];
  siteId: Data["siteId"];
  /** Nothing was ever signed, and a lead looks. */
  begins: boolean;
}) {
  if (!(rows.length === 0)) return null;
  return (
    <div className="panel p-6">
      {machines === 0 ? (
        <>
          <p className="text-lg font-semibold">No machines yet.</p>
          <p className="mt-1">What is due comes from the machines and what is done on them.</p>
          <Link to={begins ? "/first-steps" : "/machines/new"} className="btn btn-main mt-4">
            {begins ? "First steps" : "Add a machine"}
          </Link>
        </>
      ) : (
        <>
          <p className="text-lg font-semibold">Nothing is due{siteId ? " at this site" : ""}.</p>
          <p className="mt-1">Duties show up here when their notice begins.</p>
          {begins && (
            <Link to="/first-steps" className="btn btn-main mt-4">
              First steps
            </Link>
          )}
        </>
      )}
    </div>
  );
}

/** What waits for a lead: values to be looked at, intervals to be decided. */
export function ForTheLead({ parked, intervals }: { parked: number; intervals: number }) {
  return (
    <div className="space-y-4 not-empty:mb-6">
      {parked > 0 && (
        <Notice title={parked === 1 ? "A value waits to be looked at" : `${parked} values wait to be looked at`}>
          Until then they move no due day. <Link to="/machines/gateway">Take or drop them</Link>
        </Notice>
      )}
      {intervals > 0 && (
        <Notice
          title={intervals === 1 ? "An interval waits for a decision" : `${intervals} intervals wait for a decision`}
        >
          What machines were found like asks for others. <Link to="/machines/intervals">Accept or refuse them</Link>
        </Notice>
      )}
    </div>
  );
}
