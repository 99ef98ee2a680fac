import { shortDay } from "~/kit/days/day-time";

interface Reported {
  closedAt: Date | null;
  closedNote: string;
  seenAt: Date | null;
  answer: string;
  plannedOn: string | null;
}

/**
 * What an operator is told of a report: done, somebody comes, read, or not read yet. No names of the firm's people: the page is
 * open to whoever has its link.
 *
 * @param about clock time at which somebody is expected, by the day's plan
 */
export function reportWords(
  report: Reported,
  { today, dayOf, about }: { today: string; dayOf: (at: Date) => string; about: string | null },
): string {
  if (report.closedAt !== null) return `Done on ${shortDay(dayOf(report.closedAt), today)}: ${report.closedNote}`;
  const told = report.answer ? ` ${report.answer}` : "";
  if (report.plannedOn !== null && report.plannedOn >= today) {
    const day = report.plannedOn === today ? "today" : `on ${shortDay(report.plannedOn, today)}`;
    return `Read; somebody comes ${day}${about === null ? "" : ` about ${about}`}.${told}`;
  }
  return report.seenAt === null ? "Reported; nobody has read it yet." : `Read.${told}`;
}
