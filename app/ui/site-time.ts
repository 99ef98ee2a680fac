/** Day and time of an instant at the site, with its zone, the same on server and browser. */
export function siteTime(instant: string | Date, timeZone: string): string {
  const parts = new Intl.DateTimeFormat("sv-SE", { timeZone, dateStyle: "short", timeStyle: "short" }).format(
    new Date(instant),
  );
  return parts;
}
