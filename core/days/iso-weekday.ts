/** ISO 8601 weekday of a day number: 1 = Monday … 7 = Sunday. (1970-01-01 was a Thursday.) */
export function isoWeekday(dayNumber: number): number {
  return ((((dayNumber + 3) % 7) + 7) % 7) + 1;
}

/** The first day on or after `dayNumber` that falls on the ISO weekday `weekday`. */
export function onOrAfterWeekday(dayNumber: number, weekday: number): number {
  return dayNumber + ((weekday - isoWeekday(dayNumber) + 7) % 7);
}
