import { clockTime } from "@core";
import type { ReactNode } from "react";
import { Link } from "react-router";

import { dayInWords, inHours } from "~/kit/days/day-time";
import { quantity } from "~/kit/forms/quantity";
import { outcomeName } from "~/kit/outcomes";
import { served } from "~/kit/server/served.server";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";
import { Why } from "~/ui/why";

import type { Route } from "./+types/evening.route";
import { whoseDay } from "./day-action.server";
import { type Evening, eveningOf } from "./evening.server";
import { whereItWent } from "./where-it-went";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Evening, ${dayInWords(data.on)}`, "Evening") },
];

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { personId, on, params } = await whoseDay({ request, context });
    return { ...(await eveningOf(personId, on, new Date())), back: `/round/day?${params}` };
  });
}

export default function RoundEvening({ loaderData }: Route.ComponentProps) {
  const { on, today, person, done, ended, unsigned, notDone, used, hours, siteNames, back } = loaderData;
  const about = { on, personId: person.id, today };
  return (
    <>
      <PageHead
        back={<Link to={back}>{dayInWords(on)}</Link>}
        title="What became of the day"
        subtitle={`${person.name} · ${dayInWords(on)}`}
      >
        <button type="button" className="btn" onClick={() => window.print()}>
          Print
        </button>
      </PageHead>
      <div className="grid items-start gap-5 lg:grid-cols-[3fr_2fr]">
        <div className="min-w-0 space-y-5">
          {unsigned.length > 0 && (
            <List id="unsigned" title="Not signed yet" count={unsigned.length} strong>
              {unsigned.map((one) => (
                <Line key={one.sheetId} to={`/sheet/${one.sheetId}`} {...one} says="Open in your hands" />
              ))}
            </List>
          )}
          <List id="done" title="Done" count={done.length} empty="No sheet was signed.">
            {done.map((one) => (
              <Line
                key={one.sheetId}
                to={`/book/records/${one.sheetId}`}
                {...one}
                says={one.handsMinutes === null ? "" : `Hands on the work ${inHours(one.handsMinutes)}`}
              />
            ))}
          </List>
          <List
            id="not-done"
            title="Not done, and where it is now"
            count={ended.length + notDone.length}
            empty="Nothing was left."
          >
            {ended.map((one) => (
              <Line
                key={one.sheetId}
                to={`/book/records/${one.sheetId}`}
                {...one}
                says={[
                  `${outcomeName(one.outcome ?? "")}: ${one.outcomeReason ?? ""}`,
                  one.duty ? whereItWent(one.duty, about) : "",
                ]
                  .filter((part) => part !== "")
                  .join(" · ")}
              />
            ))}
            {notDone.map((one) => (
              <Line key={one.dutyId} to={`/duties/${one.dutyId}`} {...one} says={whereItWent(one, about)} />
            ))}
          </List>
        </div>
        <div className="min-w-0 space-y-5">
          <Hours hours={hours} siteNames={siteNames} />
          <Used used={used} />
        </div>
      </div>
    </>
  );
}

function Hours({ hours, siteNames }: Pick<Evening, "hours" | "siteNames">) {
  return (
    <Section id="hours" title="Hours" panel>
      {hours.from === null ? (
        <p>The day was not started here.</p>
      ) : (
        <>
          <p className="figure text-xl font-semibold">
            {clockTime(hours.from)}–{hours.to === null ? "…" : clockTime(hours.to)}
            {hours.to !== null && ` (${inHours(hours.to - hours.from)})`}
          </p>
          <ul className="my-2 divide-y divide-line border-y border-line">
            {hours.sites.map((one) => (
              <li key={`${one.siteId}${one.from}`} className="flex justify-between gap-4 py-1.5">
                <span className="min-w-0 wrap-anywhere">{siteNames[one.siteId] ?? "A site"}</span>
                <span className="figure shrink-0">
                  {clockTime(one.from)}–{one.to === null ? "…" : clockTime(one.to)}
                </span>
              </li>
            ))}
          </ul>
          <p>
            On site {inHours(hours.onSite)}, on the way and elsewhere {inHours(hours.away)}
            {hours.breaks > 0 && `, breaks ${inHours(hours.breaks)}`}; hands on signed work {inHours(hours.handsOn)}.
          </p>
          <Why
            because={[
              "On site: from each arrival to its leaving, as logged on the day; where one has not left yet, until now.",
              "On the way and elsewhere: from the day's start to its end, less the time on site.",
              "Hands on the work: the time between entries of the sheets signed that day, without waits and long silences.",
            ]}
          />
        </>
      )}
    </Section>
  );
}

function Used({ used }: Pick<Evening, "used">) {
  const short = used.filter((one) => one.full !== null && one.left < one.full);
  return (
    <Section id="used" title="Used today" panel>
      {used.length === 0 ? (
        <p>No sheet took anything from the stores.</p>
      ) : (
        <>
          <table className="w-full">
            <thead>
              <tr className="border-b-2 border-ink text-left text-sm">
                <th className="py-1 pr-3">What</th>
                <th className="py-1 pr-3 text-right">Used</th>
                <th className="py-1 text-right">Left</th>
              </tr>
            </thead>
            <tbody className="divide-y divide-line">
              {used.map((one) => (
                <tr key={one.itemId + one.placeName}>
                  <td className="py-1.5 pr-3 wrap-anywhere">
                    <Link to={`/stores/items/${one.itemId}`}>{one.name}</Link>
                    <span className="block text-sm text-ink-soft">{one.placeName}</span>
                  </td>
                  <td className="figure py-1.5 pr-3 text-right whitespace-nowrap">{quantity(one.used, one.unit)}</td>
                  <td className="figure py-1.5 text-right whitespace-nowrap">
                    {quantity(one.left, one.unit)}
                    {one.full !== null && ` of ${quantity(one.full, one.unit)}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {short.length > 0 && (
            <p className="mt-2">
              {short.length === 1 ? "One of these is" : `${short.length} of these are`} below its full stock.
            </p>
          )}
          <p className="mt-3 flex flex-wrap gap-2">
            {[...new Map(used.map((one) => [one.placeId, one.placeName]))].map(([placeId, name]) => (
              <Link key={placeId} to={`/stores/places/${placeId}`} className="btn">
                Refill {name}
              </Link>
            ))}
          </p>
        </>
      )}
    </Section>
  );
}

function List(props: {
  id: string;
  title: string;
  count: number;
  empty?: string;
  strong?: boolean;
  children: ReactNode;
}) {
  return (
    <Section
      id={props.id}
      title={
        <>
          {props.title} <span className="figure text-base font-normal text-ink-soft">{props.count}</span>
        </>
      }
      panel
      className={props.strong ? "border-2 border-ink" : ""}
    >
      {props.count === 0 ? <p>{props.empty}</p> : <ul className="divide-y divide-line">{props.children}</ul>}
    </Section>
  );
}

function Line({
  to,
  title,
  machineName,
  siteName,
  says,
}: {
  to: string;
  title: string;
  machineName: string;
  siteName: string;
  says: string;
}) {
  return (
    <li className="py-2 wrap-anywhere">
      <Link to={to} className="inline-block min-h-6 font-semibold">
        {machineName}: {title}
      </Link>
      <p className="text-sm text-ink-soft">
        {siteName}
        {says && ` · ${says}`}
      </p>
    </li>
  );
}
