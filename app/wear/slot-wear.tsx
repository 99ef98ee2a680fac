import { lazy, Suspense } from "react";
import { Link } from "react-router";

import { placeName } from "~/kit/place-name";
import { OnDay, useDayWords } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { Table } from "~/ui/table";
import { useHydrated } from "~/ui/use-hydrated";
import { Why } from "~/ui/why";

import type { SlotWear as Slot } from "./machine-wear.server";
import { ADVICE, figure, moneyBecause, moneyWords, nextWords, restsOn, whenWords } from "./wear-words";

const WearChart = lazy(() => import("./wear-chart"));

/** One part: what it reads, when it passes its limit, whether the next visit is early enough, and why. */
export function SlotWear({ slot }: { slot: Slot }) {
  const { row, itemName, baseName, baseUnit, values, chart, before, farAhead } = slot;
  const say = useDayWords();
  const hydrated = useHydrated();
  const costs = moneyWords(row);
  const name = placeName(itemName, row.slotName);
  return (
    <section aria-labelledby={row.slot} className="panel p-4">
      <h2 id={row.slot} className="scroll-mt-20 text-lg wrap-anywhere">
        {name}
      </h2>
      <p>
        <span className="figure font-semibold">{figure(row.lastValue, row.unit)}</span> on <OnDay on={row.lastOn} />.{" "}
        {whenWords(row, say, row.asOf)}
      </p>
      <p>{nextWords(row, say)}</p>
      {row.advice !== null && (
        <p className="mt-1 text-lg">
          <strong>{ADVICE[row.advice]}.</strong>
        </p>
      )}
      {costs && <p className="text-ink-soft">{costs}.</p>}
      {farAhead && (
        <p className="text-sm text-ink-soft">
          Its day is further ahead than twice the time that was observed: take it as a guess.
        </p>
      )}
      <Why because={[...restsOn(row, baseName), ...moneyBecause(row)]} summary="Why?" />
      {values.length > 1 && hydrated && (
        <div className="mt-3">
          <Suspense fallback={<div className="h-72" />}>
            <WearChart points={chart} unit={row.unit} baseUnit={baseUnit} />
          </Suspense>
          <p className="text-sm text-ink-soft">
            Dots: as found. Rings: as left. Shaded: where nine of ten new values would lie. Posts: the next visits.
            Thin: pieces before.
          </p>
        </div>
      )}
      <Disclosure title={`${values.length === 1 ? "The value" : `All ${values.length} values`} of this piece`}>
        <Table caption={`Values of ${name}`}>
          <thead>
            <tr>
              <th scope="col">Read on</th>
              <th scope="col" className="text-right">
                {row.per === "day" ? "After, days" : `After, ${baseUnit}`}
              </th>
              <th scope="col" className="text-right">
                Value
              </th>
              <th scope="col">How</th>
            </tr>
          </thead>
          <tbody>
            {values.map((one, i) => (
              <tr key={i}>
                <td>
                  <Link to={`/sheet/${one.sheetId}`}>
                    <OnDay on={one.on} />
                  </Link>
                </td>
                <td className="figure text-right">{figure(Math.round(one.use * 10) / 10)}</td>
                <td className="figure text-right">{figure(one.value, row.unit)}</td>
                <td>
                  {one.stage === "left" ? "as left" : "as found"}
                  {one.weight < 1 && `, looked wrong and was confirmed: counts ${Math.round(one.weight * 100)} %`}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Disclosure>
      {before.length > 0 && (
        <Disclosure title={before.length === 1 ? "The piece before" : `${before.length} pieces before`}>
          <ul className="list-disc pl-5">
            {before.map((one, i) => (
              <li key={i}>
                {one.from === null ? "Until" : <OnDay on={one.from} />} {one.from === null ? "" : "to "}
                <OnDay on={one.to} />: {one.from === null ? "at least " : ""}
                <span className="figure">{figure(Math.round(one.use), baseUnit)}</span>, last read{" "}
                <span className="figure">{figure(one.last, row.unit)}</span>
              </li>
            ))}
          </ul>
        </Disclosure>
      )}
    </section>
  );
}
