import { closesRun, type LoggedClock, loggedClocks, must, type RunEvent, type TimedBounds } from "@core";
import { clsx } from "clsx";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { Link, useLocation, useRouteLoaderData } from "react-router";

import { outbox } from "~/sheet/log/outbox";

import { useAlarm } from "./alarm/use-alarm";
import { ClockLines } from "./clock-lines";
import type { OpenSheet, OpenSheetsAtFirst } from "./open-sheets.server";
import { sheetClocks } from "./sheet-clocks";
import { useNow } from "./timers";

const ASK_MS = 20_000;

/**
 * The sheets in the person's hands and every clock that runs on them, on whatever page is open: switching costs one tap.
 * What this device has logged counts at once, before the server has it.
 */
export function VisitBar({
  fold,
}: {
  /** On a phone the rest of the page's head is behind a button at its end. */
  fold?: { unfolded: boolean; onFold: () => void };
}) {
  const { pathname } = useLocation();
  const open = useOpenSheets(pathname);
  const { waiting, sent } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  const here = /^\/sheet\/([^/]+)/.exec(pathname)?.[1] ?? null;
  const record = /^\/book\/records\/([^/]+)/.exec(pathname)?.[1] ?? null;
  // A sheet that was just closed is known here before the next answer leaves it out.
  const sheets = useMemo(() => {
    const closed = new Set([...sent, ...waiting].filter(closesRun).map((entry) => entry.runId));
    return open.filter((sheet) => sheet.sheetId !== record && !closed.has(sheet.sheetId));
  }, [open, record, sent, waiting]);
  const elsewhere = useMemo(
    () =>
      sheets
        // The sheet that is open shows its own clocks.
        .filter((sheet) => sheet.sheetId !== here)
        .flatMap((sheet) =>
          runningClocks(
            sheet.clocks,
            [...sheet.clockEntries, ...sent, ...waiting].filter((entry) => entry.runId === sheet.sheetId),
          ).map(({ step, round, bounds, startedAt }) => ({
            key: `${sheet.sheetId}${step}#${round}`,
            title: `${sheet.machineName}: ${bounds.title}`,
            bounds,
            startedAt,
            to: `/sheet/${sheet.sheetId}`,
          })),
        ),
    [sheets, here, sent, waiting],
  );
  const own = useSyncExternalStore(sheetClocks.subscribe, sheetClocks.snapshot, sheetClocks.serverSnapshot);
  const clocks = [...own, ...elsewhere];
  const now = useNow(clocks.length > 0);
  useAlarm(clocks, now);
  const others = sheets.filter((sheet) => sheet.sheetId !== here);
  const nothing = sheets.length === 0 || (here !== null && others.length === 0);
  return (
    <>
      <ClockLines clocks={clocks} now={now} />
      {(!nothing || fold) && (
        <section
          aria-label="Sheets in your hands"
          className={clsx(
            "flex bg-surface",
            nothing && "sm:hidden",
            fold && !fold.unfolded ? "sm:border-t-2 sm:border-ink" : "border-t-2 border-ink",
          )}
        >
          <ul
            className={clsx(
              "mx-auto flex max-w-6xl min-w-0 flex-1 gap-2 overflow-x-auto px-4",
              fold ? "sm:py-1.5" : "py-1.5",
            )}
          >
            {sheets.map((sheet) => (
              <li key={sheet.sheetId} className="shrink-0">
                <Link
                  to={`/sheet/${sheet.sheetId}`}
                  prefetch="intent"
                  aria-current={sheet.sheetId === here ? "page" : undefined}
                  className={clsx(
                    "flex min-h-[48px] items-center gap-2 border-b-4 px-2 no-underline sm:min-h-12",
                    sheet.sheetId === here ? "border-tan-fill font-bold" : "border-transparent hover:border-line",
                  )}
                >
                  <span className="max-w-44 truncate">{sheet.machineName}</span>
                  {/* The sheet that is open counts by itself. */}
                  {sheet.sheetId !== here && (
                    <span className="figure text-sm text-ink-soft">
                      {sheet.settled}/{sheet.total}
                    </span>
                  )}
                </Link>
              </li>
            ))}
          </ul>
          {fold && (
            <button
              type="button"
              aria-expanded={fold.unfolded}
              aria-label={fold.unfolded ? "Fold the head" : "Unfold the head"}
              className="min-h-[48px] min-w-12 shrink-0 text-lg font-bold sm:hidden"
              onClick={fold.onFold}
            >
              <span aria-hidden="true">{fold.unfolded ? "▴" : "▾"}</span>
            </button>
          )}
        </section>
      )}
    </>
  );
}

function useOpenSheets(pathname: string): OpenSheet[] {
  const first = useRouteLoaderData<OpenSheetsAtFirst>("root")?.openSheets ?? null;
  const [sheets, setSheets] = useState(first ?? []);
  // What came with the page is not asked for once more.
  const known = useRef(first !== null);
  useEffect(() => {
    const control = new AbortController();
    const ask = async (): Promise<void> => {
      if (document.visibilityState !== "visible") return;
      try {
        const response = await fetch("/api/visit", { signal: control.signal });
        if (response.ok) setSheets(((await response.json()) as { sheets: OpenSheet[] }).sheets);
      } catch {
        // No connection: what is known stays, its clocks run on.
      }
    };
    if (!known.current) void ask();
    known.current = false;
    const timer = setInterval(() => void ask(), ASK_MS);
    return () => {
      control.abort();
      clearInterval(timer);
    };
  }, [pathname]);
  return sheets;
}

/** Clocks that run: started, and neither stopped, confirmed nor undone since. */
export function runningClocks(
  clocks: OpenSheet["clocks"],
  entries: readonly RunEvent[],
): (LoggedClock & { bounds: TimedBounds & { title: string } })[] {
  return loggedClocks(entries)
    .filter((one) => one.stoppedAt === null)
    .flatMap((one) => (clocks[one.step] ? [{ ...one, bounds: must(clocks[one.step]) }] : []));
}
