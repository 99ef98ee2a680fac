import { clockTime } from "@core";
import { Link } from "react-router";

import { inPercent } from "~/kit/in-percent";
import { HOLDS_IN } from "~/round/day/day-summary";
import { Day, OnDay } from "~/ui/day";
import { Section } from "~/ui/section";
import { Why } from "~/ui/why";

import type { FirmToday } from "./firm-today.server";
import { slipInWords } from "./where-words";

/** What a lead looks at: where everybody is, what slips, what waits for somebody to decide. */
export function FirmTodayPanel({ firm, on }: { firm: FirmToday; on: string }) {
  const { people, items, itemCount, refused } = firm;
  if (people.length === 0) return null;
  return (
    <>
      <Section
        id="firm"
        title={
          <span className="flex flex-wrap items-baseline justify-between gap-x-4">
            Everybody today
            <Link to="/round/week" className="text-base font-normal">
              The week
            </Link>
          </span>
        }
        className="mb-6"
      >
        <ul className="panel divide-y divide-line">
          {people.map((person) => (
            <li key={person.id} className="relative flex flex-wrap items-baseline gap-x-4 px-3 py-2 hover:bg-sunken">
              <Link
                to={`/round/day?${new URLSearchParams({ on, for: person.id })}`}
                className="min-w-32 font-semibold wrap-anywhere after:absolute after:inset-0"
              >
                {person.name}
              </Link>
              <span className="min-w-0 flex-1 basis-56 wrap-anywhere">
                {person.says}
                {person.slips > 0 && <strong> · ! {slipInWords(person.slips)}</strong>}
              </span>
              <span className="text-sm text-ink-soft">
                {person.done} done, {person.duties} to do
                {person.backAt !== null && person.status !== "ended" && (
                  <>
                    {" "}
                    · back <span className="figure">{clockTime(person.backAt)}</span>
                    {person.endBy > 0 && person.backAt > person.endBy && <strong className="text-ink"> ! late</strong>}
                    {person.holds !== null && ` · holds in ${inPercent(person.holds)}`}
                  </>
                )}
              </span>
            </li>
          ))}
        </ul>
        <Why
          summary="What these rest on"
          because={[
            "Behind the plan: minutes since one should have come to the next site, or left this one, by the day as it was planned last.",
            HOLDS_IN,
          ]}
        />
      </Section>
      {items.length + refused.length > 0 && (
        <Section id="decide" title="Waits for a decision" className="mb-6">
          <ul className="panel divide-y divide-line border-2 border-ink">
            {items.map((one) => (
              <li key={one.id} className="relative px-3 py-2 hover:bg-sunken">
                <p className="wrap-anywhere">
                  {one.severity === "unsafe" && <span aria-hidden="true">! </span>}
                  <strong>{one.severity === "unsafe" ? "Unsafe" : "Major"}, no day:</strong> {one.title}
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  <Link to={`/machines/${one.machineId}/left`} className="after:absolute after:inset-0">
                    {one.machineName}
                  </Link>
                  , {one.siteName} · wanted by <OnDay on={one.wantedBy} />
                </p>
              </li>
            ))}
            {refused.map((one) => (
              <li key={one.sheetId} className="relative px-3 py-2 hover:bg-sunken">
                <p className="wrap-anywhere">
                  <strong>Refused:</strong> {one.title}
                  {one.reason !== "" && `. ${one.reason}`}
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  <Link to={`/duties/${one.dutyId}`} className="after:absolute after:inset-0">
                    {one.machineName}
                  </Link>
                  , {one.siteName} · <Day at={one.closedAt} />
                </p>
              </li>
            ))}
          </ul>
          {itemCount > items.length && (
            <p className="mt-1 text-sm text-ink-soft">
              And {itemCount - items.length} more that are bad, open and without a day.
            </p>
          )}
        </Section>
      )}
    </>
  );
}
