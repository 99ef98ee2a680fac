export interface Span {
  name: string;
  from: string;
  to: string;
}

/** Spans that an inspector asks for, seen from a day: months, half years and years, none that is still to come. */
export function spansAt(today: string): Span[] {
  const year = Number(today.slice(0, 4));
  const half = today.slice(5) >= "07-01" ? 2 : 1;
  return [
    monthOf(today, 0),
    monthOf(today, -1),
    halfYear(year, half),
    half === 2 ? halfYear(year, 1) : halfYear(year - 1, 2),
    wholeYear(year),
    wholeYear(year - 1),
  ];
}

const MONTH = new Intl.DateTimeFormat("en-GB", { timeZone: "UTC", month: "long", year: "numeric" });

function monthOf(today: string, shift: number): Span {
  const first = new Date(Date.UTC(Number(today.slice(0, 4)), Number(today.slice(5, 7)) - 1 + shift, 1));
  const last = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0));
  return { name: MONTH.format(first), from: first.toISOString().slice(0, 10), to: last.toISOString().slice(0, 10) };
}

function halfYear(year: number, half: 1 | 2): Span {
  return half === 1
    ? { name: `Jan to Jun ${year}`, from: `${year}-01-01`, to: `${year}-06-30` }
    : { name: `Jul to Dec ${year}`, from: `${year}-07-01`, to: `${year}-12-31` };
}

function wholeYear(year: number): Span {
  return { name: String(year), from: `${year}-01-01`, to: `${year}-12-31` };
}
