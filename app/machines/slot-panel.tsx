import { Link } from "react-router";

import { OnDay } from "~/ui/day";
import { Section } from "~/ui/section";

import type { SlotView } from "./slots.server";

const NUMBER = new Intl.NumberFormat("en", { maximumFractionDigits: 1 });

/** What sits in the machine's slots: since when, at which meter, and how many edges or sides are left. */
export function SlotPanel({ slots }: { slots: SlotView[] }) {
  if (slots.length === 0) return null;
  return (
    <Section id="slots" title="Parts in it" panel>
      <ul className="mt-1 divide-y divide-line">
        {slots.map((slot) => (
          <li key={slot.slot} className="py-2">
            <p className="wrap-anywhere">
              <strong>{slot.slotName}</strong>:{" "}
              <Link to={`/stores/items/${encodeURIComponent(slot.fitted?.item ?? slot.item)}`}>{slot.itemName}</Link>
              {slot.together && <span className="text-sm text-ink-soft"> (renewed as {slot.together})</span>}
            </p>
            {slot.fitted ? (
              <p className="text-sm text-ink-soft wrap-anywhere">
                Since{" "}
                <Link to={`/book/records/${slot.fitted.sheetId}`}>
                  <OnDay on={slot.fitted.on} />
                </Link>
                {slot.fitted.lot && <>, lot {slot.fitted.lot}</>}
                {slot.fitted.meters.map((one) => (
                  <span key={one.meter}>
                    , {one.meter.replaceAll("-", " ")} then <span className="figure">{NUMBER.format(one.then)}</span>
                    {one.now !== null && (
                      <>
                        {" "}
                        (<span className="figure">{NUMBER.format(one.now - one.then)}</span> since)
                      </>
                    )}
                  </span>
                ))}
                {slot.usesPerPiece > 1 && (
                  <>
                    . <Edges left={slot.fitted.usesLeft} of={slot.usesPerPiece} />
                  </>
                )}
              </p>
            ) : (
              <p className="text-sm text-ink-soft">Nothing logged yet.</p>
            )}
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** Edges or sides of a piece: those left, the one that is on included, are filled. */
function Edges({ left, of }: { left: number; of: number }) {
  return (
    <span className="inline-flex items-center gap-1">
      <span aria-hidden="true" className="inline-flex gap-0.5">
        {Array.from({ length: of }, (_, i) => (
          <span key={i} className={`inline-block h-3 w-2 border border-ink ${i < left ? "bg-fill" : ""}`} />
        ))}
      </span>
      {left} of {of} uses left
    </span>
  );
}
