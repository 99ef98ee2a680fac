import { useRouteLoaderData } from "react-router";

import { shortDay } from "~/kit/days/day-time";
import { dayInZone } from "~/kit/days/site-day";

import { siteTime } from "./site-time";
import { Why } from "./why";

const useZone = (): string => useRouteLoaderData<{ timeZone?: string }>("root")?.timeZone ?? "UTC";

/** Tells the day of an instant where the firm is: near midnight UTC's would be yesterday or tomorrow. */
export function useDay(): (at: string | Date) => string {
  const timeZone = useZone();
  return (at) => dayInZone(new Date(at), timeZone);
}

/** Says a day as people say it: "Fri 27 Nov", with its year when that is another. */
export function useDayWords(): (on: string) => string {
  const timeZone = useZone();
  return (on) => shortDay(on, dayInZone(new Date(), timeZone));
}

/** Says the days in a sentence of the core's, which knows them as YYYY-MM-DD. */
export function useSaidDays(): (sentence: string) => string {
  const say = useDayWords();
  return (sentence) => sentence.replace(/\b\d{4}-\d{2}-\d{2}\b/g, say);
}

/** A day; nothing when there is none. */
export function OnDay({ on }: { on: string | null }) {
  const say = useDayWords();
  return on === null ? null : <span className="whitespace-nowrap">{say(on)}</span>;
}

/** The day of an instant where the firm is. */
export function Day({ at }: { at: string | Date }) {
  return <OnDay on={useDay()(at)} />;
}

/** Day and time of an instant where the site is. */
export function AtSite({ at, timeZone }: { at: string | Date; timeZone: string }) {
  const say = useDayWords();
  const [on = "", time = ""] = siteTime(at, timeZone).split(" ");
  return (
    <span className="whitespace-nowrap">
      {say(on)} <span className="figure">{time}</span>
    </span>
  );
}

/** The "why" behind a day, with the days in it as people say them. */
export function WhyThisDay({ because }: { because: readonly string[] }) {
  return <Why because={because.map(useSaidDays())} summary="Why this day?" />;
}
