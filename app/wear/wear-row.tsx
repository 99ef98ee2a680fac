import { Link } from "react-router";

import { chanceWords } from "~/kit/chance-words";
import { placeName } from "~/kit/place-name";
import { useDayWords } from "~/ui/day";
import { Why } from "~/ui/why";

import type { ListedWear } from "./wear-list.server";
import { WearStrip } from "./wear-strip";
import { ADVICE, figure, isPast, moneyBecause, moneyWords, restsOn, whenWords } from "./wear-words";

/** A part of the list: what it reads, when it passes its limit, what the next visit would find, and what pays. */
export function WearRow({ row, today }: { row: ListedWear; today: string }) {
  const say = useDayWords();
  const past = isPast(row);
  const costs = moneyWords(row);
  return (
    <li className="panel grid gap-x-5 gap-y-1 p-4 sm:grid-cols-[minmax(0,1fr)_auto]">
      <div className="min-w-0">
        <h2 className="text-base wrap-anywhere">
          <Link to={`/machines/${row.machineId}/wear#${row.slot}`}>
            {placeName(row.itemName ?? row.item, row.slotName)}
          </Link>
        </h2>
        <p className="text-sm text-ink-soft wrap-anywhere">
          <span className="figure">{row.tag}</span> {row.machineName} · {row.siteName}
        </p>
        <p className="mt-1">
          <span className="figure font-semibold">{figure(row.lastValue, row.unit)}</span> on {say(row.lastOn)}.{" "}
          {whenWords(row, say, today)}
        </p>
        {row.advice !== null && (
          <p className="mt-1">
            <strong>{ADVICE[row.advice]}</strong>
            {costs && <span className="text-ink-soft"> · {costs}</span>}
          </p>
        )}
        <Why because={[...restsOn(row, row.per.replaceAll("-", " ")), ...moneyBecause(row)]} />
      </div>
      <div className="flex items-center gap-3 sm:flex-col sm:items-end sm:justify-center sm:gap-1">
        <WearStrip told={row} secondOn={row.secondOn} today={today} past={past} />
        <p className="text-sm sm:text-right">
          {row.nextOn === null ? (
            "No visit due"
          ) : (
            <>
              {say(row.nextOn)}
              {row.nextChance !== null && (
                <>
                  : <span className="figure font-semibold">{chanceWords(row.nextChance)}</span> that it is past
                </>
              )}
            </>
          )}
        </p>
      </div>
    </li>
  );
}
