import { clockTime, type DayLeg } from "@core";

import { inHours } from "~/kit/days/day-time";

/** A ferry on the way, with the one after it and the last one back: what there is to miss. */
export function Ferry({ leg }: { leg: DayLeg }) {
  const { ferry, leave } = leg;
  if (!ferry) return null;
  const waits = ferry.departs - leave;
  return (
    <p className="text-sm wrap-anywhere">
      <span aria-hidden="true">⛴ </span>
      Ferry{leg.to === null && " back"} <span className="figure">{clockTime(ferry.departs)}</span> to{" "}
      <span className="figure">{clockTime(ferry.lands)}</span>
      {waits > 0 && `, ${inHours(waits)} to wait for it`}
      {ferry.next === null ? (
        <strong>, the last one</strong>
      ) : (
        <>
          , next <span className="figure">{clockTime(ferry.next)}</span>
        </>
      )}
      {leg.to !== null && ferry.lastBack !== null && (
        <>
          , last back <span className="figure">{clockTime(ferry.lastBack)}</span>
        </>
      )}
    </p>
  );
}
