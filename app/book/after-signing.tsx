import { Link } from "react-router";

import type { NextAfter } from "~/sheet/signing/next-after.server";

/** Right after a signature: where the work goes on. */
export function AfterSigning({ next, count }: { next: NextAfter; count: number }) {
  const { open, here, sites } = next;
  const onDay = sites.length > 0 ? `Then ${sites.length === 1 ? sites[0] : `${sites.length} more sites`}.` : "";
  return (
    <section className="panel no-print mb-5 border-2 border-ink p-4" role="status">
      <h2 className="text-lg">
        <span aria-hidden="true">✓ </span>
        {count > 1 ? `${count} sheets signed` : "Signed"}
      </h2>
      {open.length + here.length > 0 && (
        <>
          <p className="mt-2 font-semibold">Still to do here</p>
          <ul className="mb-2">
            {open.map((one) => (
              <li key={one.sheetId} className="wrap-anywhere">
                <Link to={`/sheet/${one.sheetId}`} className="inline-flex min-h-11 items-center">
                  {one.machineName}: go on with {one.title}
                </Link>
              </li>
            ))}
            {here.map((one) => (
              <li key={one.dutyId} className="wrap-anywhere">
                <Link to={`/duties/${one.dutyId}`} className="inline-flex min-h-11 items-center">
                  {one.machineName}: {one.title}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Link to="/round/day" className={open.length + here.length > 0 ? "btn" : "btn btn-main"}>
          {open.length + here.length > 0 ? "To the day" : "Leave the site: to the day"}
        </Link>
        {onDay || (open.length + here.length === 0 && "Nothing more is planned for you today.")}
      </p>
    </section>
  );
}
