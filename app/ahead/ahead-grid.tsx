import { AHEAD_CELLS, cellDays, must } from "@core";
import { clsx } from "clsx";
import { type DragEvent, type KeyboardEvent, useRef, useState } from "react";
import { Link } from "react-router";

import type { AheadDuty, AheadSite } from "./ahead.server";
import { cellHead, cellWords, hoursWords, SPAN_NAMES } from "./cell-words";

/** Days that a mark can be dropped on: those that have a cell of their own. */
const isDay = (cell: number): boolean =>
  must(AHEAD_CELLS[cell]).fromDay !== null && must(AHEAD_CELLS[cell]).fromDay === must(AHEAD_CELLS[cell]).toDay;
const startsSpan = (cell: number): boolean => must(AHEAD_CELLS[cell]).span !== AHEAD_CELLS[cell - 1]?.span;
const DRAG_TYPE = "application/x-hound-duties";

export interface GridProps {
  sites: readonly AheadSite[];
  selected: ReadonlySet<string>;
  onToggle: (duties: readonly AheadDuty[]) => void;
  onDropOn: (dutyIds: string[], day: string) => void;
}

/**
 * Sites down the side, a stretched line of time across. In each cell a column stands for hands-on time: solid what falls
 * due next, hatched what repeats; a flag where something is put on the day already. Arrow keys move, space selects.
 */
export function AheadGrid({ sites, selected, onToggle, onDropOn }: GridProps) {
  const table = useRef<HTMLTableElement>(null);
  const [at, setAt] = useState({ row: 0, cell: 1 });
  const today = must(sites[0]).today;
  const tallest = Math.max(60, ...sites.flatMap((site) => AHEAD_CELLS.map((_, cell) => minutesIn(site, cell))));

  function move(event: KeyboardEvent): void {
    const steps: Record<string, [number, number]> = {
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      Home: [0, -99],
      End: [0, 99],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const next = {
      row: clamp(at.row + step[0], sites.length - 1),
      cell: clamp(at.cell + step[1], AHEAD_CELLS.length - 1),
    };
    setAt(next);
    table.current?.querySelector<HTMLButtonElement>(`[data-at="${next.row}/${next.cell}"]`)?.focus();
  }

  return (
    <table
      ref={table}
      role="grid"
      aria-label="Duties by site and time"
      className="w-full table-fixed border-collapse"
      onKeyDown={move}
    >
      <colgroup>
        <col className="w-48" />
        {AHEAD_CELLS.map((cell, i) => (
          <col
            key={i}
            className={cell.span === "overdue" ? "w-[4.6rem]" : cell.span === "today" ? "w-14" : undefined}
          />
        ))}
      </colgroup>
      <GridHead onToggle={onToggle} sites={sites} today={today} />
      <tbody>
        {sites.map((site, row) => (
          <tr key={site.id} className="border-b border-line">
            <th scope="row" className="py-1 pr-2 text-left align-middle font-semibold">
              <Link to={`/sites/${site.id}`} className="block truncate" title={site.name}>
                {site.name}
              </Link>
              <span className="block truncate text-xs font-normal text-ink-soft" title={site.accessHours}>
                {site.accessHours || site.customerName}
              </span>
            </th>
            {AHEAD_CELLS.map((_, cell) => (
              <Cell
                key={cell}
                site={site}
                row={row}
                cell={cell}
                tallest={tallest}
                selected={selected}
                focusable={at.row === row && at.cell === cell}
                onFocus={() => setAt({ row, cell })}
                onToggle={onToggle}
                onDropOn={onDropOn}
              />
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Cell({
  site,
  row,
  cell,
  tallest,
  selected,
  focusable,
  onFocus,
  onToggle,
  onDropOn,
}: Omit<GridProps, "sites"> & {
  site: AheadSite;
  row: number;
  cell: number;
  tallest: number;
  focusable: boolean;
  onFocus: () => void;
}) {
  const [over, setOver] = useState(false);
  const duties = site.duties.filter((one) => one.cell === cell);
  const repeats = must(site.repeats[cell]);
  const chosen = duties.length > 0 && duties.every((one) => selected.has(one.dutyId));
  const some = duties.some((one) => selected.has(one.dutyId));
  const minutes = duties.reduce((sum, one) => sum + one.handsOn, 0);
  const planned = duties.some((one) => one.plannedOn !== null);
  const locked = duties.some((one) => one.hardStop);
  const day = isDay(cell) ? must(cellDays(must(AHEAD_CELLS[cell]), site.today).from) : null;
  const what = [
    duties.length > 0
      ? `${duties.length} ${duties.length === 1 ? "duty" : "duties"}, ${hoursWords(minutes)}`
      : "nothing new",
    repeats.count > 0 ? `${repeats.count} repeats, ${hoursWords(repeats.minutes)}` : "",
    planned ? "some on a day already" : "",
    locked ? "a hard stop" : "",
  ].filter(Boolean);
  const drag = {
    draggable: duties.length > 0,
    onDragStart: (event: DragEvent) => {
      const ids = (some ? [...selected] : duties.map((one) => one.dutyId)).join(",");
      event.dataTransfer.setData(DRAG_TYPE, ids);
      event.dataTransfer.effectAllowed = "move";
    },
    ...(day === null
      ? {}
      : {
          onDragOver: (event: DragEvent) => {
            if (!event.dataTransfer.types.includes(DRAG_TYPE)) return;
            event.preventDefault();
            setOver(true);
          },
          onDragLeave: () => setOver(false),
          onDrop: (event: DragEvent) => {
            event.preventDefault();
            setOver(false);
            onDropOn(event.dataTransfer.getData(DRAG_TYPE).split(","), day);
          },
        }),
  };
  return (
    <td role="gridcell" aria-selected={chosen} className={clsx("p-0", startsSpan(cell) && "border-l-2 border-ink")}>
      <button
        type="button"
        data-at={`${row}/${cell}`}
        tabIndex={focusable ? 0 : -1}
        aria-pressed={chosen}
        aria-label={`${site.name}, ${cellWords(cell, site.today)}: ${what.join("; ")}`}
        onFocus={onFocus}
        onClick={() => onToggle(duties)}
        className={clsx(
          "relative flex h-12 w-full items-end justify-center",
          chosen ? "bg-tan-fill text-on-tan" : over ? "bg-line" : "hover:bg-sunken",
        )}
        {...drag}
      >
        {some && !chosen && <span aria-hidden="true" className="absolute inset-x-0 bottom-0 h-1 bg-tan" />}
        <Column share={minutes / tallest} kind="solid" />
        <Column share={repeats.minutes / tallest} kind="hatched" />
        {duties.length > 0 && (
          <span aria-hidden="true" className="figure absolute top-0 left-1 text-xs leading-4">
            {duties.length}
            {locked && " ▪"}
          </span>
        )}
        {planned && (
          <svg aria-hidden="true" viewBox="0 0 8 10" className="absolute top-0.5 right-0.5 h-3 w-2.5">
            <path d="M1 0 V10 M1 0 L8 3 L1 6" fill="currentColor" stroke="currentColor" strokeWidth="1.2" />
          </svg>
        )}
      </button>
    </td>
  );
}

/** Heights go by the square root: a daily check stays visible beside a day's work. */
function Column({ share, kind }: { share: number; kind: "solid" | "hatched" }) {
  if (share <= 0) return null;
  return (
    <span
      aria-hidden="true"
      className={clsx("mx-px w-3 border border-current", kind === "solid" ? "bg-current" : "hatched")}
      style={{ height: `${Math.max(kind === "solid" ? 7 : 4, Math.min(1, Math.sqrt(share)) * 30)}px` }}
    />
  );
}

export function minutesIn(site: AheadSite, cell: number): number {
  return Math.max(
    must(site.repeats[cell]).minutes,
    site.duties.filter((one) => one.cell === cell).reduce((sum, one) => sum + one.handsOn, 0),
  );
}

function spans(): { span: (typeof AHEAD_CELLS)[number]["span"]; count: number }[] {
  const found: { span: (typeof AHEAD_CELLS)[number]["span"]; count: number }[] = [];
  for (const { span } of AHEAD_CELLS) {
    const last = found[found.length - 1];
    if (last?.span === span) last.count += 1;
    else found.push({ span, count: 1 });
  }
  return found;
}

function clamp(value: number, max: number): number {
  return Math.max(0, Math.min(max, value));
}

/** Spans and days; a span opens and closes its days. */
function GridHead({
  onToggle,
  sites,
  today,
}: {
  onToggle: (duties: readonly AheadDuty[]) => void;
  sites: readonly AheadSite[];
  today: string;
}) {
  return (
    <thead>
      <tr>
        <td />
        {spans().map(({ span, count }) => (
          <th
            key={span}
            scope="colgroup"
            colSpan={count}
            className="border-l-2 border-ink px-1 pb-1 text-left text-sm font-semibold"
          >
            <button
              type="button"
              className="min-h-11 w-full truncate text-left hover:underline"
              title="Choose all of this span on the page"
              onClick={() =>
                onToggle(
                  sites.flatMap((site) => site.duties.filter((one) => must(AHEAD_CELLS[one.cell]).span === span)),
                )
              }
            >
              {SPAN_NAMES[span]}
            </button>
          </th>
        ))}
      </tr>
      <tr>
        <td className="border-b-2 border-ink" />
        {AHEAD_CELLS.map((cell, i) => (
          <th
            key={i}
            scope="col"
            className={clsx(
              "h-12 border-b-2 border-ink align-bottom text-xs leading-tight font-normal text-ink-soft",
              startsSpan(i) && "border-l-2 border-l-ink",
            )}
          >
            <span className="figure block pb-1">
              {cellHead(i, today)
                .replace(" ", "\n")
                .split("\n")
                .map((word, j) => (
                  <span key={j} className="block">
                    {word}
                  </span>
                ))}
            </span>
            <span className="sr-only">{cell.span === "overdue" ? "overdue" : ""}</span>
          </th>
        ))}
      </tr>
    </thead>
  );
}
