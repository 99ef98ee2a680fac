import { clockTime, type DayLeg } from "@core";
import { useEffect, useRef } from "react";
import { Form, Link, useFetcher } from "react-router";

import { inPercent } from "~/kit/in-percent";
import { BreakLine } from "~/round/day/break-line";
import { HOLDS_IN } from "~/round/day/day-summary";
import { Ferry } from "~/round/day/ferry";
import { NextBar } from "~/round/day/next-bar";
import type { Today } from "~/round/day/today.server";
import { nextActs, type TodayStop } from "~/round/day/today-stops";
import { Why } from "~/ui/why";

/** The person's day: where one is, what comes then, what later; one tap into each sheet. */
export function TodayPanel({ today, leaving }: { today: Today; leaving: { site: string; words: string } | null }) {
  const { status, stops, duties, figures, endBy, legs } = today;
  const { main, sheet } = nextActs(status, stops);
  const behind = stops.filter((stop) => stop.state === "done" || stop.state === "skipped");
  const ahead = stops.filter((stop) => !behind.includes(stop));
  const [first, second, ...rest] = ahead;
  const home = legs.find((leg) => leg.to === null);
  // A day under way is planned anew now and then: what is worked moves its chance.
  const anew = useFetcher();
  const asked = useRef(false);
  useEffect(() => {
    if (!today.stale || asked.current) return;
    asked.current = true;
    void anew.submit({ intent: "replan" }, { method: "post" });
  });
  return (
    <section aria-labelledby="today" className="panel mb-6 border-l-8 border-l-tan-fill p-4">
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 id="today" className="text-lg">
          Today
        </h2>
        <Link to="/round/day" className="inline-block min-h-6">
          {stops.length > 0 ? "The day in full" : "The day"}
        </Link>
      </div>
      <div className="sm:mb-3">
        <NextBar main={main} sheet={sheet} dayHref="/round/day" eveningHref="/round/evening" />
      </div>
      <Dangers dangers={today.dangers} />
      {stops.length === 0 && (
        <p className="mb-3">
          {duties === 0
            ? "Nothing is on your day yet."
            : `${duties} ${duties === 1 ? "duty is" : "duties are"} on your day, not planned yet.`}
        </p>
      )}
      {behind.length > 0 && (
        <p className="text-sm text-ink-soft wrap-anywhere">
          {behind.map((stop) => `${stop.name} ${stop.state === "done" ? "✓" : "left out"}`).join(" · ")}
        </p>
      )}
      <ol aria-label="The round">
        {first && <Stop stop={first} leg={legTo(legs, first)} word={first.state === "here" ? "Now" : "Next"} />}
        {second && <Stop stop={second} leg={legTo(legs, second)} word="Then" />}
        {rest.map((stop) => (
          <Stop key={stop.site} stop={stop} leg={legTo(legs, stop)} word="Later" short />
        ))}
      </ol>
      {stops.length > 0 && today.unplanned > 0 && status !== "ended" && (
        <p className="border-t border-line py-2">
          {today.unplanned === 1 ? "One duty was" : `${today.unplanned} duties were`} put on the day since it was
          planned: <Link to="/round/day">look at it again</Link>
        </p>
      )}
      {status !== "ended" && (
        <BreakLine
          breaks={today.breaks}
          next={today.nextBreak}
          now={today.now}
          siteName={(id) => stops.find((stop) => stop.site === id)?.name ?? "a site"}
        />
      )}
      {home && status !== "ended" && <Ferry leg={home} />}
      {figures && status !== "ended" && ahead.length > 0 && (
        <p className="mt-2 wrap-anywhere">
          Back at <strong className="figure">{clockTime(figures.backAt)}</strong>
          {figures.backAt >= 1440 && " the day after"}, wanted by <span className="figure">{clockTime(endBy)}</span>;
          holds in <span className="figure">{inPercent(figures.holds)}</span> of such days.
        </p>
      )}
      {figures && status !== "ended" && ahead.length > 0 && (
        <Why
          summary="What these rest on"
          because={[
            "Times: the day as it was planned last, each visit packed from when one is let in, ways and ferries by their timetables.",
            HOLDS_IN,
          ]}
        />
      )}
      {leaving && (
        <Form method="post" className="mt-3 border-2 border-ink p-3">
          <p className="mb-2 wrap-anywhere">{leaving.words}</p>
          <input type="hidden" name="site" value={leaving.site} />
          <input type="hidden" name="sure" value="yes" />
          <button className="btn" name="intent" value="left">
            Leave all the same
          </button>
        </Form>
      )}
    </section>
  );
}

/** What of the day is in danger, while something can be done about it. */
function Dangers({ dangers }: { dangers: readonly string[] }) {
  const help = useFetcher<{ changes: string[] }>();
  const key = dangers.join(" ");
  const asked = useRef("");
  useEffect(() => {
    if (key === "" || asked.current === key) return;
    asked.current = key;
    void help.load("/round/what-helps");
  });
  if (dangers.length === 0) return null;
  const changes = help.data?.changes ?? [];
  return (
    <div role="status" className="mb-3 border-2 border-ink p-3">
      <ul>
        {dangers.map((one) => (
          <li key={one} className="wrap-anywhere">
            <span aria-hidden="true">! </span>
            {one}
          </li>
        ))}
      </ul>
      {changes.length > 0 && (
        <>
          <p className="mt-2 font-semibold">What would make it hold</p>
          <ul className="list-disc pl-5">
            {changes.map((one) => (
              <li key={one} className="wrap-anywhere">
                {one}
              </li>
            ))}
          </ul>
        </>
      )}
      {help.data && changes.length === 0 && <p className="mt-2">No single change is enough.</p>}
      <Link to="/round/day#collides" className="inline-block min-h-11 py-2">
        {changes.length > 0 ? "Do it on the day's page" : "What would help"}
      </Link>
    </div>
  );
}

const legTo = (legs: readonly DayLeg[], stop: TodayStop): DayLeg | null =>
  legs.find((leg) => leg.to === stop.site) ?? null;

function Stop({
  stop,
  leg,
  word,
  short = false,
}: {
  stop: TodayStop;
  leg: DayLeg | null;
  word: string;
  short?: boolean;
}) {
  const open = stop.duties.filter((duty) => !duty.done);
  return (
    <li className="border-t border-line py-2 first:border-t-0">
      {leg && <Ferry leg={leg} />}
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="w-12 shrink-0 text-sm text-ink-soft">{word}</span>
        <span className="figure font-semibold">
          {clockTime(stop.arrive)}–{clockTime(stop.leave)}
        </span>
        <strong className="min-w-0 wrap-anywhere">{stop.name}</strong>
        {short && (
          <span className="text-sm text-ink-soft">
            {open.length} {open.length === 1 ? "duty" : "duties"}
          </span>
        )}
      </div>
      {!short && (
        <ul className="sm:pl-15">
          {stop.duties.map((duty) => (
            <li key={duty.dutyId} className="wrap-anywhere">
              {duty.done ? (
                <span className="inline-flex min-h-11 items-center gap-2 text-ink-soft sm:min-h-8">
                  <span aria-hidden="true">✓</span>
                  <span>
                    <span className="sr-only">Done: </span>
                    {duty.machineName}: {duty.title}
                  </span>
                </span>
              ) : (
                <Link
                  to={duty.sheetId === null ? `/duties/${duty.dutyId}` : `/sheet/${duty.sheetId}`}
                  className="inline-flex min-h-11 items-center sm:min-h-8"
                >
                  <span>
                    {duty.machineName}: {duty.title}
                    {duty.sheetId !== null && <strong> · open: go on</strong>}
                  </span>
                </Link>
              )}
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
