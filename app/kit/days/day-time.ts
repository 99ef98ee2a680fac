import { must } from "@core";
/** Minute of the day, 0 to 1439, that an instant falls on in a time zone (IANA name). */
export function minuteOfDay(instant: Date, timeZone: string): number {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone,
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  }).formatToParts(instant);
  const part = (type: string): number => Number(must(parts.find((one) => one.type === type)).value);
  return part("hour") * 60 + part("minute");
}

/** HH:MM as minutes of the day. */
export function minutesOf(clock: string): number {
  const [hours, minutes] = clock.split(":").map(Number);
  return must(hours) * 60 + must(minutes);
}

/** Minutes as `45 min` or `2 h 05 min`. */
export function inHours(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, "0")} min`;
}

/** `Thursday 26 November` of a day YYYY-MM-DD. */
export function dayInWords(day: string): string {
  return new Intl.DateTimeFormat("en-GB", { timeZone: "UTC", weekday: "long", day: "numeric", month: "long" }).format(
    new Date(`${day}T12:00:00Z`),
  );
}

/** ISO weekday, 1 = Monday, of a day YYYY-MM-DD. */
export function weekdayOf(day: string): number {
  return ((new Date(`${day}T12:00:00Z`).getUTCDay() + 6) % 7) + 1;
}

const SHORT = { timeZone: "UTC", weekday: "short", day: "numeric", month: "short" } as const;
// A format costs more to make than all the days of a page to write.
const shortDate = new Intl.DateTimeFormat("en-GB", SHORT);
const shortDateOfYear = new Intl.DateTimeFormat("en-GB", { ...SHORT, year: "numeric" });

/** `Sat 21 Nov` of a day YYYY-MM-DD, with its year when that is not the one of `today`. */
export function shortDay(day: string, today: string): string {
  const format = day.slice(0, 4) === today.slice(0, 4) ? shortDate : shortDateOfYear;
  return format.format(new Date(`${day}T12:00:00Z`)).replace(",", "");
}
