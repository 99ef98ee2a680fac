import { Fragment } from "react";
import { Form, Link } from "react-router";

import { quantity } from "~/kit/forms/quantity";
import { ItemPicker } from "~/stores/items/item-picker";
import { OnDay, useDayWords } from "~/ui/day";
import { PlainField } from "~/ui/plain-field";
import { Section } from "~/ui/section";

import type { Route } from "./+types/place.route";

type Data = Route.ComponentProps["loaderData"];

/** Counting what lies there, lot by lot. */
export function CountForm({
  counting,
  today,
  errors,
  place,
  difference,
}: {
  counting: Data["counting"];
  today: Data["today"];
  errors: Record<string, string[]>;
  place: Data["place"];
  difference: Data["difference"];
}) {
  const say = useDayWords();
  return (
    <Section id="count" title={counting ? `Count: ${counting.item.name}` : "Count"} panel className="mb-5">
      {counting ? (
        <Form method="post" className="space-y-3" key={counting.item.id}>
          <input type="hidden" name="itemId" value={counting.item.id} />
          <div className="flex flex-wrap gap-4">
            {counting.lots.map((lot, i) => (
              <Fragment key={lot.lotId ?? ""}>
                {lot.lotId && <input type="hidden" name={`found[${i}].lot`} value={lot.lotId} />}
                <PlainField
                  id={`found-${i}`}
                  name={`found[${i}].qty`}
                  label={
                    lot.lot === null ? `Without a lot, ${counting.item.unit}` : `Lot ${lot.lot}, ${counting.item.unit}`
                  }
                  hint={`The books: ${quantity(lot.qty, counting.item.unit)}${lot.expiresOn ? `, ${lot.expiresOn < today ? "expired" : "until"} ${say(lot.expiresOn)}` : ""}`}
                  inputMode="decimal"
                  autoFocus={lot === counting.lots[0]}
                  autoComplete="off"
                  answer={errors[`found[${i}].qty`]}
                />
              </Fragment>
            ))}
            {!counting.lots.some((lot) => lot.lotId === null) && (
              <PlainField
                id={`found-${counting.lots.length}`}
                name={`found[${counting.lots.length}].qty`}
                label={`Without a lot, ${counting.item.unit}`}
                hint="The books: nothing"
                inputMode="decimal"
                autoFocus={counting.lots.length === 0}
                autoComplete="off"
                answer={errors[`found[${counting.lots.length}].qty`]}
              />
            )}
          </div>
          <PlainField
            id="note"
            name="note"
            label="What explains a difference"
            maxLength={300}
            answer={errors.note}
            className="max-w-lg"
          />
          <div className="flex flex-wrap gap-3">
            <button className="btn btn-main" name="intent" value="count">
              That is what is there
            </button>
            <Link to={`/stores/places/${place.id}`} className="btn">
              Another item
            </Link>
          </div>
        </Form>
      ) : (
        <Form method="post" className="flex flex-wrap items-end gap-3">
          <div className="w-80 max-w-full">
            <ItemPicker id="count-item" answer={errors.item} autoFocus={difference !== null} />
          </div>
          <button className="btn btn-main" name="intent" value="choose">
            Count it
          </button>
        </Form>
      )}
    </Section>
  );
}

/** What the place holds, page by page. */
export function Holds({ rows, counts }: { rows: Data["rows"]; counts: Data["counts"] }) {
  return rows.length === 0 ? (
    <p className="panel p-5">
      {counts
        ? "Nothing asks for a count here."
        : "Nothing yet. Open an item and say what was received, or move something here."}
    </p>
  ) : (
    <ul className="panel divide-y divide-line">
      {rows.map((row) => (
        <li key={row.id} className="flex flex-wrap items-baseline justify-between gap-x-4 px-4 py-2">
          <Link to={`/stores/items/${encodeURIComponent(row.id)}`} className="min-w-0 wrap-anywhere">
            {row.name}
          </Link>
          <span className="text-right">
            {row.countAsked && (
              <Link to={`?count=${encodeURIComponent(row.id)}`} className="mr-3">
                ! Please count<span className="sr-only"> {row.name}</span>
              </Link>
            )}
            <span className="figure">{quantity(row.onHand, row.unit)}</span>
            {row.reserved > 0 && (
              <span className="text-sm text-ink-soft">, {quantity(row.reserved, row.unit)} held</span>
            )}
            {row.runsOutOn && (
              <span className="block text-sm text-ink-soft">
                until <OnDay on={row.runsOutOn} />
              </span>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
