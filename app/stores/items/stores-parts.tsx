import { must } from "@core";
import { Link } from "react-router";

import { quantity } from "~/kit/forms/quantity";
import { OnDay } from "~/ui/day";
import { Section } from "~/ui/section";

import type { Route } from "./+types/stores.route";
import type { OutlookRow } from "./overview.server";
import { RunOutStrip } from "./run-out-strip";

type Data = Route.ComponentProps["loaderData"];

/** What runs out, what is likely to be missed, what expires unused. */
export function RunningOut({
  order,
  today,
  likely,
  expiring,
}: {
  order: Data["order"];
  today: Data["today"];
  likely: Data["likely"];
  expiring: Data["expiring"];
}) {
  return (
    <div className="min-w-0 space-y-5">
      <List
        title="To be ordered"
        empty="Nothing runs out in the next three months by what is surely needed."
        rows={order}
      >
        {(row) => (
          <>
            <RunOutStrip today={today} runsOutOn={row.runsOutOn} orderBy={row.orderBy} />
            <p className="min-w-0 flex-1 basis-52 text-sm">
              {must(row.orderBy) < today ? (
                <strong>! Order it: it will not come in time. </strong>
              ) : (
                <>
                  Order by <OnDay on={row.orderBy} />.{" "}
                </>
              )}
              <span className="text-ink-soft">
                {quantity(row.orderQty, row.unit)} missing from <OnDay on={row.runsOutOn} /> on
                {row.onOrder > 0 && <>; {quantity(row.onOrder, row.unit)} on order</>}
              </span>
            </p>
          </>
        )}
      </List>
      {order.length > 0 && (
        <p>
          <Link to="/stores/orders" className="btn btn-main">
            Make drafts of orders
          </Link>
        </p>
      )}
      {likely.length > 0 && (
        <List title="Likely to be missed" empty="" rows={likely}>
          {(row) => (
            <p className="min-w-0 flex-1 basis-52 text-sm text-ink-soft">
              By what was measured, else by past services, about {quantity(Math.round(row.likely * 10) / 10, row.unit)}{" "}
              will turn out to be needed in three months
              {row.needed > 0 && <>, besides {quantity(row.needed, row.unit)} surely</>};{" "}
              {quantity(row.onHand, row.unit)} there.
              {row.likelyOrderBy !== null && (
                <>
                  {" "}
                  Runs out about <OnDay on={row.likelyOutOn} />, order by <OnDay on={row.likelyOrderBy} />.
                </>
              )}
            </p>
          )}
        </List>
      )}
      {expiring.length > 0 && (
        <List title="Will expire unused" empty="" rows={expiring}>
          {(row) => (
            <p className="min-w-0 flex-1 basis-52 text-sm">
              {quantity(row.expiringQty, row.unit)} {must(row.expiringOn) < today ? "expired on" : "on"}{" "}
              <OnDay on={row.expiringOn} />
            </p>
          )}
        </List>
      )}
    </div>
  );
}

export function CountsWanted({ counts }: { counts: Data["counts"] }) {
  if (counts.length === 0) return null;
  return (
    <Section id="counts" title="Please count" panel>
      <p className="text-sm text-ink-soft">More was used than the books had.</p>
      <ul className="mt-2 space-y-2">
        {counts.map((row) => (
          <li key={`${row.itemId} ${row.placeId}`}>
            <Link
              to={`/stores/places/${row.placeId}?count=${encodeURIComponent(row.itemId)}`}
              className="wrap-anywhere"
            >
              {row.name}
            </Link>
            <span className="block text-sm text-ink-soft">
              {row.placeName}: <span className="figure">{quantity(row.onHand, row.unit)}</span>
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
}

export function KitsLow({
  low,
}: {
  low: {
    kit: {
      id: string;
      name: string;
      procedureId: string;
      procedureTitle: string;
      items: { itemId: string; name: string; unit: string; usesPerPiece: number; full: number; perService: number }[];
      places: {
        placeId: string;
        placeName: string;
        cover: { services: number; firstOut: string[]; leftover: Record<string, number> } | null;
        missing: { itemId: string; qty: number }[];
      }[];
    };
    place: {
      placeId: string;
      placeName: string;
      cover: { services: number; firstOut: string[]; leftover: Record<string, number> } | null;
      missing: { itemId: string; qty: number }[];
    };
    cover: { services: number; firstOut: string[]; leftover: Record<string, number> };
  }[];
}) {
  if (low.length === 0) return null;
  return (
    <Section id="kits" title="Kits running low" panel>
      <ul className="mt-1 space-y-2">
        {low.map(({ kit, place, cover }) => (
          <li key={`${kit.id} ${place.placeId}`}>
            <Link to="/stores/kits">{kit.name}</Link>, {place.placeName}
            <span className="block text-sm text-ink-soft">
              {cover.services === 0
                ? "No whole service"
                : cover.services === 1
                  ? "One more service"
                  : `${cover.services} more services`}
              ; first out:{" "}
              {cover.firstOut.map((id) => kit.items.find((one) => one.itemId === id)?.name ?? id).join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
}

export function PlacesList({ places }: { places: Data["places"] }) {
  return (
    <Section id="places" title="Places" panel>
      <ul className="mt-1">
        {places.map((place) => (
          <li key={place.id}>
            <Link to={`/stores/places/${place.id}`} className="inline-block min-h-8 wrap-anywhere">
              {place.name}
            </Link>
            {place.personName && <span className="text-sm text-ink-soft"> {place.personName}</span>}
            {place.siteName && <span className="text-sm text-ink-soft"> at {place.siteName}</span>}
          </li>
        ))}
      </ul>
      <p className="mt-2 flex flex-wrap gap-x-4 text-sm">
        <Link to="/stores/places" className="inline-block min-h-8">
          All places
        </Link>
        <a href="/stores.csv" className="inline-block min-h-8">
          Stock as CSV
        </a>
      </p>
    </Section>
  );
}

function List({
  title,
  empty,
  rows,
  children,
}: {
  title: string;
  empty: string;
  rows: OutlookRow[];
  children: (row: OutlookRow) => React.ReactNode;
}) {
  const id = title.toLowerCase().replaceAll(" ", "-");
  return (
    <section aria-labelledby={id} className="panel p-4">
      <h2 id={id} className="text-lg">
        {title}
      </h2>
      {rows.length === 0 ? (
        <p className="mt-1">{empty}</p>
      ) : (
        <ul className="mt-2 divide-y divide-line border-t border-line">
          {rows.map((row) => (
            <li key={row.itemId} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
              <div className="min-w-0 basis-48">
                <Link to={`/stores/items/${encodeURIComponent(row.itemId)}`} className="font-semibold wrap-anywhere">
                  {row.name}
                </Link>
                <p className="figure text-sm text-ink-soft">{quantity(row.onHand, row.unit)} there</p>
              </div>
              {children(row)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
