import type { ReactNode } from "react";

import { clipped } from "~/kit/clipped";
import { shortDay } from "~/kit/days/day-time";
import { outcomeName } from "~/kit/outcomes";
import { Disclosure } from "~/ui/disclosure";

import type { BeforeStart } from "./before-start.server";

/**
 * What is to be known before the first step, in six lines at most: what is open, what operators said, how the last visit ended,
 * where to drain, whom to call, key and papers. Open until the work has begun.
 */
export function BeforeStartCard({ facts, begun }: { facts: BeforeStart; begun: boolean }) {
  const lines = linesOf(facts);
  if (lines.length === 0) return null;
  const list = (
    <dl className="space-y-1">
      {lines.map(({ name, words }) => (
        <div key={name} className="flex gap-x-3">
          <dt className="w-20 shrink-0 font-semibold">{name}</dt>
          <dd className="min-w-0 wrap-anywhere">{words}</dd>
        </div>
      ))}
    </dl>
  );
  return begun ? (
    <Disclosure title="Before you start" className="no-print mb-2">
      <div className="panel p-3">{list}</div>
    </Disclosure>
  ) : (
    <section aria-labelledby="before" className="panel mb-4 border-l-8 border-l-tan-fill p-3 sm:p-4">
      <h2 id="before" className="mb-1 text-base font-bold">
        Before you start
      </h2>
      {list}
    </section>
  );
}

/** Longer words are cut: what stands here is read in passing. */
const MOST_WORDS = 160;

function linesOf(facts: BeforeStart): { name: string; words: ReactNode }[] {
  const { today } = facts;
  const lines: { name: string; words: ReactNode }[] = [];
  const open = [
    ...facts.holds.map((hold) => `! Out of service: ${hold.reason}`),
    ...facts.left.filter((one) => one.severity !== "unsafe").map((one) => one.title),
  ];
  if (open.length > 0) lines.push({ name: "Open", words: short(listed(open, 3)) });
  const said = [
    ...facts.reports.map(
      (one) => `${one.stopped ? "machine stopped, " : ""}${one.text} (${one.name}, ${shortDay(one.on, today)})`,
    ),
    ...(facts.ticked ? [`${facts.ticked.title} ticked ${shortDay(facts.ticked.on, today)}, ${facts.ticked.name}`] : []),
  ];
  if (said.length > 0) lines.push({ name: "Operators", words: short(listed(said, 2)) });
  if (facts.last) {
    const { on, by, outcome, reason, notes } = facts.last;
    const ended = outcome === null ? "" : `: ${outcomeName(outcome).toLowerCase()}${reason ? `, ${reason}` : ""}`;
    lines.push({
      name: "Last time",
      words: short(`${shortDay(on, today)}, ${by}${ended}${notes.length > 0 ? `. ${notes.join(". ")}` : ""}`),
    });
  }
  const waste = [facts.drain && `Drain: ${facts.drain}`, facts.waste && `Waste: ${facts.waste}`].filter(Boolean);
  if (waste.length > 0) lines.push({ name: "Water", words: short(waste.join(" ")) });
  const callable = facts.call.filter((one) => one.phone);
  if (callable.length > 0) lines.push({ name: "Call", words: <Callable people={callable.slice(0, 2)} /> });
  if (facts.access || facts.siteNotes || facts.documents.length > 0)
    lines.push({ name: "Way in", words: <WayIn facts={facts} /> });
  return lines;
}

const listed = (all: readonly string[], most: number): string =>
  all.length <= most ? all.join("; ") : `${all.slice(0, most).join("; ")}; and ${all.length - most} more`;

const short = (words: string): string => clipped(words, MOST_WORDS);

function Callable({ people }: { people: BeforeStart["call"] }) {
  return (
    <span className="flex flex-wrap gap-x-4">
      {people.map((one) => (
        <a key={one.phone} href={`tel:${one.phone.replace(/[^+\d]/g, "")}`} className="inline-block min-h-8">
          {one.name}
          {one.role && `, ${one.role}`} <span className="figure">{one.phone}</span>
        </a>
      ))}
    </span>
  );
}

function WayIn({ facts }: { facts: BeforeStart }) {
  return (
    <>
      {short([facts.access, facts.siteNotes].filter(Boolean).join(". "))}{" "}
      {facts.documents.slice(0, 3).map((one) => (
        <a key={one.href} href={one.href} target="_blank" rel="noreferrer" className="mr-3 inline-block min-h-8">
          {one.title}
        </a>
      ))}
    </>
  );
}
