import { addDays, must } from "@core";
import { Form, Link } from "react-router";

import { money, quantity } from "~/kit/forms/quantity";
import { Day, OnDay, useDayWords } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { PlainField, PlainSelect } from "~/ui/plain-field";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";
import { Why } from "~/ui/why";

import type { Route } from "./+types/item.route";
import { RunOutStrip } from "./run-out-strip";

type Data = Route.ComponentProps["loaderData"];

/** When it runs out with what is expected besides what is sure. */
function LikelyOut({
  outlook,
}: {
  outlook: { runsOutOn: string | null; likelyOutOn: string | null; likelyOrderBy: string | null };
}) {
  if (outlook.likelyOutOn === null || outlook.likelyOutOn === outlook.runsOutOn) return null;
  return (
    <>
      {" "}
      With what is expected besides it runs out about <OnDay on={outlook.likelyOutOn} />: order by{" "}
      <OnDay on={outlook.likelyOrderBy} />.
    </>
  );
}

/** What is where and how long it lasts. */
export function OnHand(props: {
  all: number;
  item: Data["item"];
  outlook: Data["outlook"];
  today: Data["today"];
  seenUntil: Data["seenUntil"];
  leadDays: Data["leadDays"];
  places: Data["places"];
}) {
  const { all, item, outlook, today, seenUntil, leadDays, places } = props;
  const say = useDayWords();
  return (
    <Section
      id="there"
      title={
        <>
          <span className="figure">{quantity(all, item.unit)}</span> in all
          {item.usesPerPiece > 1 && (
            <span className="text-base font-normal text-ink-soft">
              {" "}
              – each serves {item.usesPerPiece} times: <span className="figure">{all * item.usesPerPiece}</span> uses
            </span>
          )}
        </>
      }
      panel
      className="mb-5"
    >
      {outlook ? (
        <div className="mt-2">
          <RunOutStrip today={today} runsOutOn={outlook.runsOutOn} orderBy={outlook.orderBy} />
          <p>
            {outlook.runsOutOn ? (
              <>
                Runs out on{" "}
                <strong>
                  <OnDay on={outlook.runsOutOn} />
                </strong>
                ; order {quantity(outlook.orderQty, item.unit)} by{" "}
                <strong>
                  <OnDay on={outlook.orderBy} />
                </strong>
                {must(outlook.orderBy) < today && <strong> ! that day has passed</strong>}.
              </>
            ) : (
              <>
                Lasts at least until <OnDay on={seenUntil} />, by what is surely needed.
              </>
            )}
            <LikelyOut outlook={outlook} />
          </p>
          <Why
            because={[
              `Until ${say(seenUntil)} the duties that come due surely take ${quantity(outlook.needed, item.unit)}: each is projected by its own rules, with what its procedure takes.`,
              `By what was measured, else by past services, about ${quantity(Math.round(outlook.likely * 100) / 100, item.unit)} more will turn out to be needed; that does not move the sure day.`,
              `First expiry, first out. The first day whose need is not met in full is the day it runs out; ordering takes ${leadDays} days.`,
              `What is missing until then is ordered in whole packs of ${quantity(item.packSize, item.unit)}.`,
            ]}
          />
        </div>
      ) : (
        <p className="mt-1 text-ink-soft">No duty that comes due in the next three months is known to take it.</p>
      )}
      {places.length > 0 && (
        <Table caption="Where it lies" className="min-w-md" regionClass="mt-3">
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col" className="text-right">
                There
              </th>
              <th scope="col">Lots</th>
              <th scope="col">Lasts</th>
            </tr>
          </thead>
          <tbody>
            {places.map((place) => (
              <tr key={place.placeId}>
                <td className="wrap-anywhere">
                  <Link to={`/stores/places/${place.placeId}?count=${encodeURIComponent(item.id)}`}>
                    {place.placeName}
                  </Link>
                  {place.countAsked && <strong className="block text-sm">! Please count</strong>}
                </td>
                <td className="figure text-right">
                  {quantity(place.onHand, item.unit)}
                  {place.reserved > 0 && (
                    <span className="block text-sm text-ink-soft">{quantity(place.reserved, item.unit)} held</span>
                  )}
                </td>
                <td className="text-sm">
                  {place.lots.map((lot) => (
                    <span key={lot.lotId ?? ""} className="block">
                      {lot.lot ?? "no lot"}: <span className="figure">{quantity(lot.qty, item.unit)}</span>
                      {lot.expiresOn && (
                        <>
                          {" "}
                          {lot.expiresOn < today ? <strong>! expired</strong> : "until"} <OnDay on={lot.expiresOn} />
                        </>
                      )}
                    </span>
                  ))}
                </td>
                <td>
                  {place.outlook && <RunOutStrip today={today} runsOutOn={place.outlook.runsOutOn} orderBy={null} />}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </Section>
  );
}

/** What comes, goes, moves and is ordered. */
export function Bookings({
  allPlaces,
  known,
  errors,
  item,
  today,
  places,
  outlook,
}: {
  allPlaces: Data["allPlaces"];
  known: (form: string) => boolean;
  errors: (form: string) => Record<string, string[]>;
  item: Data["item"];
  today: Data["today"];
  places: Data["places"];
  outlook: Data["outlook"];
}) {
  if (allPlaces.length === 0) return null;
  return (
    <>
      <Act title="Received" open={known("receive")}>
        <PlainSelect id="r-place" name="place" label="Where" options={allPlaces} answer={errors("receive").place} />
        <PlainField
          id="r-qty"
          name="qty"
          label={`How much, ${item.unit}`}
          inputMode="decimal"
          defaultValue={String(item.packSize)}
          answer={errors("receive").qty}
        />
        <div className="grid grid-cols-2 gap-2">
          <PlainField id="r-lot" name="lot" label="Lot" maxLength={60} answer={errors("receive").lot} />
          <PlainField
            id="r-expires"
            name="expiresOn"
            label="Expires"
            type="date"
            answer={errors("receive").expiresOn}
            {...(item.shelfLifeDays ? { hint: `Usually ${addDays(today, item.shelfLifeDays)}` } : {})}
          />
        </div>
        <button className="btn btn-main w-full" name="intent" value="receive">
          Put it there
        </button>
      </Act>
      <Act title="Move" open={known("move")}>
        <PlainSelect
          id="m-from"
          name="from"
          label="From"
          options={allPlaces}
          answer={errors("move").from}
          defaultValue={places.find((one) => one.onHand > 0)?.placeId}
        />
        <PlainSelect id="m-to" name="to" label="To" options={allPlaces} answer={errors("move").to} />
        <PlainField
          id="m-qty"
          name="qty"
          label={`How much, ${item.unit}`}
          inputMode="decimal"
          answer={errors("move").qty}
        />
        <button className="btn btn-main w-full" name="intent" value="move">
          Move it
        </button>
      </Act>
      <Act title="Thrown away" open={known("scrap")}>
        <PlainSelect id="s-place" name="place" label="From" options={allPlaces} answer={errors("scrap").place} />
        <PlainField
          id="s-qty"
          name="qty"
          label={`How much, ${item.unit}`}
          inputMode="decimal"
          answer={errors("scrap").qty}
        />
        <PlainField id="s-note" name="note" label="Why" maxLength={300} answer={errors("scrap").note} />
        <button className="btn btn-main w-full" name="intent" value="scrap">
          Take it off the books
        </button>
      </Act>
      <Act title="Order" open={known("order")}>
        <PlainField
          id="o-packs"
          name="packs"
          label={`Packs of ${quantity(item.packSize, item.unit)}`}
          inputMode="numeric"
          defaultValue={String(outlook && outlook.orderQty > 0 ? Math.ceil(outlook.orderQty / item.packSize) : 1)}
          answer={errors("order").packs}
        />
        <button className="btn btn-main w-full" name="intent" value="order">
          Put it on a draft
        </button>
      </Act>
    </>
  );
}

export function ItemFacts({
  item,
  supplierName,
  leadDays,
  alternatives,
  fitted,
  changes,
}: {
  item: Data["item"];
  supplierName: Data["supplierName"];
  leadDays: Data["leadDays"];
  alternatives: Data["alternatives"];
  fitted: Data["fitted"];
  changes: Data["changes"];
}) {
  return (
    <section className="panel p-4 text-sm">
      <dl className="space-y-1">
        <Fact name="Pack">
          {item.packName || "single"}, {quantity(item.packSize, item.unit)},{" "}
          <span className="figure">{money(item.packPriceCents)}</span>
        </Fact>
        <Fact name="Supplier">
          {supplierName ?? "none yet"}
          {item.orderCode && <span className="figure"> {item.orderCode}</span>}, {leadDays} days
        </Fact>
        {item.shelfLifeDays !== null && <Fact name="Keeps">{item.shelfLifeDays} days</Fact>}
        {item.storage && <Fact name="Storage">{item.storage}</Fact>}
        {item.hazards.length > 0 && <Fact name="Watch out">{item.hazards.join(", ")}</Fact>}
        {item.needsSerial && <Fact name="Ordering">by the machine&apos;s model and serial</Fact>}
      </dl>
      {alternatives.length > 0 && (
        <>
          <h3 className="mt-3 text-base">Would also do</h3>
          <ul>
            {alternatives.map((one) => (
              <li key={one.id}>
                <Link to={`/stores/items/${encodeURIComponent(one.id)}`} className="inline-block min-h-6">
                  {one.name}
                </Link>{" "}
                <span className="figure">{quantity(one.onHand, one.unit)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {fitted.length > 0 && (
        <>
          <h3 className="mt-3 text-base">On machines</h3>
          <ul>
            {fitted.map((one) => (
              <li key={`${one.machineId} ${one.slot}`} className="wrap-anywhere">
                <Link to={`/machines/${one.machineId}`} className="inline-block min-h-6">
                  {one.machineName}
                </Link>
                , {one.slot.replaceAll("-", " ")} since <OnDay on={one.fittedOn} />
                {item.usesPerPiece > 1 && `, ${one.usesLeft} of ${item.usesPerPiece} uses left`}
              </li>
            ))}
          </ul>
        </>
      )}
      {changes.length > 0 && (
        <Disclosure title="Changes" className="mt-3">
          <ul>
            {changes.map((change, i) => (
              <li key={i}>
                <Day at={change.at} /> {change.by}: {change.action}
              </li>
            ))}
          </ul>
        </Disclosure>
      )}
    </section>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="inline font-semibold">{name}: </dt>
      <dd className="inline wrap-anywhere">{children}</dd>
    </div>
  );
}

function Act({ title, open, children }: { title: string; open: boolean; children: React.ReactNode }) {
  return (
    <Disclosure title={title} look="strong" open={open} className="panel p-4">
      <Form method="post" className="mt-2 space-y-2">
        {children}
      </Form>
    </Disclosure>
  );
}
