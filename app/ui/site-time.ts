const formats = new Map<string, Intl.DateTimeFormat>();

/** Day and time of an instant at the site, with its zone, the same on server and browser. */
export function siteTime(instant: string | Date, timeZone: string): string {
  let format = formats.get(timeZone);
  if (!format) {
    format = new Intl.DateTimeFormat("sv-SE", { timeZone, dateStyle: "short", timeStyle: "short" });
    formats.set(timeZone, format);
  }
  return format.format(new Date(instant));
}
