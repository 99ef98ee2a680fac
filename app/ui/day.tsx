import { useRouteLoaderData } from "react-router";

import { dayInZone } from "~/kit/days/site-day";

/** Tells the day of an instant where the firm is: near midnight UTC's would be yesterday or tomorrow. */
export function useDay(): (at: string | Date) => string {
  const timeZone = useRouteLoaderData<{ timeZone?: string }>("root")?.timeZone ?? "UTC";
  return (at) => dayInZone(new Date(at), timeZone);
}

/** The day of an instant where the firm is. */
export function Day({ at }: { at: string | Date }) {
  return <span className="figure">{useDay()(at)}</span>;
}
