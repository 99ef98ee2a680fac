import { Link } from "react-router";

import { LeadMark, leadWords } from "~/duties/lead-mark";
import { together } from "~/procedures/together";
import { OnDay, WhyThisDay } from "~/ui/day";
import { SafetySign } from "~/ui/safety-sign";
import { Section } from "~/ui/section";

import type { Route } from "./+types/duty.route";

type Data = Route.ComponentProps["loaderData"];

/** How close to due, by which rule, and by what. */
export function WhenDue({
  row,
  because,
  lead,
}: {
  row: Data["row"];
  because: Data["assessed"]["because"];
  lead: boolean;
}) {
  return (
    <div className="panel mt-4 p-4">
      <div className="flex flex-wrap items-center gap-5">
        <LeadMark
          state={row.state}
          anchorOn={row.anchorOn}
          dueOn={row.dueOn}
          today={row.today}
          rivals={row.rivals}
          foretoldFrom={row.foretoldFrom}
          foretoldTo={row.foretoldTo}
          hardStop={row.hardStop}
          width={220}
        />
        <p className="text-lg font-semibold">
          {leadWords(row.state, row.dueOn, row.today)}
          {row.dueOn && (
            <span className="block text-sm font-normal text-ink-soft">
              <OnDay on={row.dueOn} />
              {row.foretoldFrom && row.foretoldTo && (
                <>
                  , by how far it is worn between <OnDay on={row.foretoldFrom} /> and <OnDay on={row.foretoldTo} />
                </>
              )}
            </span>
          )}
        </p>
      </div>
      <div className="mt-3 flex flex-wrap items-start justify-between gap-x-5">
        <WhyThisDay because={because} />
        {lead && (
          <Link to={`/duties/${row.dutyId}/rules`} className="inline-block min-h-8 text-sm">
            Change the rules
          </Link>
        )}
      </div>
      {row.plannedOn && (
        <p className="mt-2 text-sm">
          Put on <OnDay on={row.plannedOn} />
          {row.plannedForName && ` for ${row.plannedForName}`}
        </p>
      )}
    </div>
  );
}

/** What to watch out for and to bring. */
export function BeforeBeginning({
  procedure,
  minutes,
}: {
  procedure: Data["procedure"];
  /** Of a duty that says itself how long it takes. */
  minutes: number | null;
}) {
  return (
    <aside className="space-y-5">
      <Section id="watch" title="Watch out">
        <ul className="space-y-2">
          {procedure.hazards.map((hazard) => (
            <li key={hazard.text} className="flex gap-3">
              <SafetySign kind={hazard.kind} />
              <span>{hazard.text}</span>
            </li>
          ))}
        </ul>
      </Section>
      <Listing title="Wear" items={procedure.protective} />
      <Listing title="Tools" items={procedure.tools} />
      <Listing title="Materials" items={procedure.materials.map((one) => `${one.name}, ${one.qty} ${one.unit}`)} />
      <Listing
        title="Parts, if worn"
        items={procedure.parts.map(
          (one) =>
            `${one.name}${one.slots.length > 1 ? ` × ${one.slots.length}` : ""}${one.pair ? `, as ${together(one)}` : ""}`,
        )}
      />
      <p className="text-sm text-ink-soft">
        {minutes === null ? (
          <>
            Hands-on <span className="figure">{procedure.minutes.handsOn} min</span>, waiting{" "}
            <span className="figure">{procedure.minutes.waiting} min</span>, typical.
          </>
        ) : (
          <>
            Hands-on about <span className="figure">{minutes} min</span>.
          </>
        )}{" "}
        The maker&apos;s manual and local rules come first.
      </p>
    </aside>
  );
}

function Listing({ title, items }: { title: string; items: string[] }) {
  if (items.length === 0) return null;
  return (
    <section>
      <h2 className="mb-1 text-lg">{title}</h2>
      <ul className="list-disc pl-5">
        {items.map((item) => (
          <li key={item}>{item}</li>
        ))}
      </ul>
    </section>
  );
}
