import { clsx } from "clsx";
import { type ReactNode, useId } from "react";

import { shortDay } from "~/kit/days/day-time";
import { WhyThisDay } from "~/ui/day";

import type { SheetToSign } from "./visit-to-sign.server";

const WEIGHTS = {
  reset: "The counter is not reset",
  proof: "The proof is missing",
  safety: "Safety not confirmed",
  step: "",
} as const;

/** A sheet of the visit; with `onTick`, one that may be left out of what is signed. */
export function SheetPanel({
  sheet,
  today,
  ticked = true,
  onTick,
  children,
}: {
  sheet: SheetToSign;
  today: string;
  ticked?: boolean;
  onTick?: (ticked: boolean) => void;
  children: ReactNode;
}) {
  const { machine, title, done, of } = sheet;
  const words = (
    <span className="wrap-anywhere">
      {machine.name} <span className="figure font-normal">{machine.tag}</span>
      <span className="block font-normal">{title}</span>
    </span>
  );
  return (
    <section className={clsx("panel p-4", !ticked && "text-ink-soft")}>
      <h2 className="mb-2 text-base font-bold">
        {onTick ? (
          <label className="flex min-h-12 items-start gap-3">
            <input
              type="checkbox"
              className="mt-1 size-5 shrink-0 accent-(--fill)"
              checked={ticked}
              onChange={(event) => onTick(event.target.checked)}
            />
            {words}
          </label>
        ) : (
          words
        )}
      </h2>
      {ticked ? (
        <Summary sheet={sheet} today={today} />
      ) : (
        <p>
          <span className="figure">
            {done} of {of}
          </span>{" "}
          steps: stays open
        </p>
      )}
      {children}
    </section>
  );
}

/** What is not settled, and why it is signed all the same. */
export function MissingReason({ sheet, name, faults = [] }: { sheet: SheetToSign; name: string; faults?: string[] }) {
  const id = useId();
  return (
    <div className="mt-3 border-t-2 border-ink pt-3">
      <h3 className="font-bold">
        <span aria-hidden="true">! </span>Not settled yet
      </h3>
      <ul className="my-2 list-disc pl-5">
        {sheet.missing.map((one) => (
          <li key={`${one.step}#${one.round}`}>
            {one.weight !== "step" && <strong>{WEIGHTS[one.weight]}: </strong>}
            {one.title}
          </li>
        ))}
      </ul>
      <label htmlFor={id} className="mb-1 block font-semibold">
        Why do you sign without them?
      </label>
      <p id={`${id}-hint`} className="mb-1 text-sm text-ink-soft">
        Better: go back and settle them. The reason goes on the record.
      </p>
      <textarea
        id={id}
        name={name}
        rows={2}
        maxLength={1000}
        aria-invalid={faults.length > 0 ? true : undefined}
        aria-describedby={`${id}-hint ${id}-fault`}
        className="field"
      />
      <p id={`${id}-fault`} role={faults.length > 0 ? "alert" : undefined} className="min-h-6 text-sm font-semibold">
        {faults.length > 0 && `! ${faults.join(" ")}`}
      </p>
    </div>
  );
}

/** What a sheet comes to: what the customer signs for. */
function Summary({ sheet, today }: { sheet: SheetToSign; today: string }) {
  const { done, of, found, left, parts, materials, next } = sheet;
  const day = next.on === null ? "no day yet" : shortDay(next.on, today);
  const lines: [string, readonly string[]][] = [
    ["Found", found],
    ["Left to do", left],
    ["Parts", parts],
    ["Used", materials],
  ];
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      <dt className="font-semibold">Done</dt>
      <dd>
        <span className="figure">
          {done} of {of}
        </span>{" "}
        steps
      </dd>
      {lines
        .filter(([, words]) => words.length > 0)
        .map(([name, words]) => (
          <div key={name} className="contents">
            <dt className="font-semibold">{name}</dt>
            <dd className="wrap-anywhere">
              {words.map((one) => (
                <p key={one}>{one}</p>
              ))}
            </dd>
          </div>
        ))}
      <dt className="font-semibold">{next.stays ? "Stays due" : "Next time"}</dt>
      <dd>
        {day}
        {next.because.length > 0 && <WhyThisDay because={next.because} />}
      </dd>
    </dl>
  );
}

/** A visit in a line or two, over the pad. */
export function visitInWords(sheets: readonly SheetToSign[], site: { name: string }): string[] {
  const sum = (count: (one: SheetToSign) => number): number => sheets.reduce((total, one) => total + count(one), 0);
  const counts: [number, string][] = [
    [sum((one) => one.found.length), "found"],
    [sum((one) => one.left.length), "left to do"],
    [sum((one) => one.parts.length), "parts fitted"],
  ];
  const many = sheets.length === 1 ? "1 machine's sheet" : `${sheets.length} sheets`;
  return [
    [`${site.name}: ${many}`, ...counts.filter(([count]) => count > 0).map(([count, what]) => `${count} ${what}`)].join(
      ", ",
    ),
    ...sheets.flatMap((one) => [...one.found, ...one.left].map((words) => `${one.machine.name}: ${words}`)),
  ];
}
