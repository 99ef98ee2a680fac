const formats = new Map<string, Intl.DateTimeFormat>();

/** The calendar day, 'YYYY-MM-DD', that an instant falls on in a time zone (IANA name). */
export function dayInZone(instant: Date, timeZone: string): string {
  let format = formats.get(timeZone);
  if (!format) {
    // The Swedish locale writes ISO dates.
    format = new Intl.DateTimeFormat("sv-SE", { timeZone, year: "numeric", month: "2-digit", day: "2-digit" });
    formats.set(timeZone, format);
  }
  return format.format(instant);
}

/** The latest day it can be anywhere (UTC+14). */
export function latestDay(instant: Date): string {
  return new Date(instant.getTime() + 14 * 3_600_000).toISOString().slice(0, 10);
}

export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat("en", { timeZone: name });
    return true;
  } catch {
    return false;
  }
}
