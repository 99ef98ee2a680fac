import { must } from "@core";
import { useState } from "react";
import { Form, Link } from "react-router";

import { chanceWords } from "~/kit/chance-words";
import { quantity } from "~/kit/forms/quantity";
import type { Place } from "~/stores/ledger/places.server";
import { OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";

import type { Item } from "../items/catalogue.server";
import { carryWords } from "./carry-view";
import type { LoadDuty, LoadViewLine } from "./load.server";
import { ScanToTick } from "./scan-to-tick";
import { takeAlong } from "./take-along";
import { type Ticks, useTicks } from "./use-ticks";

interface Props {
  lines: LoadViewLine[];
  duties: LoadDuty[];
  places: Place[];
  van: string | null;
  mayChange: boolean;
  on: string;
  /** Whose day; null for one's own. */
  personId: string | null;
}

type Group = { id: string; title: string; hint?: string; lines: LoadViewLine[] };

/** The load list by where each thing is: missing first, then to be fetched, then in the van already, then what is likely. */
export function LoadGroups({ lines, duties, places, van, mayChange, on, personId }: Props) {
  const ticks = useTicks(on, personId);
  const sure = lines.filter((line) => line.chance === 1);
  const nameOf = (id: string): string => places.find((place) => place.id === id)?.name ?? "another place";
  const elsewhere = (line: LoadViewLine): string | null =>
    line.from.find((one) => one.placeId !== van)?.placeId ?? null;
  const fetched = [...new Set(sure.map(elsewhere).filter((id) => id !== null))];
  const groups: Group[] = [
    {
      id: "missing",
      title: "Missing",
      hint: "Move it from somewhere, take what would also do, or leave the duty for another day.",
      lines: sure.filter((line) => line.short > 0),
    },
    ...fetched.map((id) => ({
      id,
      title: `Fetch from ${nameOf(id)}`,
      lines: sure.filter((line) => line.short === 0 && elsewhere(line) === id),
    })),
    {
      id: "van",
      title: van === null ? "At hand" : `In ${nameOf(van)} already`,
      hint: "See that it really is.",
      lines: sure.filter((line) => line.short === 0 && !line.carried && elsewhere(line) === null),
    },
    {
      id: "likely",
      title: "Likely parts",
      hint: "Not for sure: by what was measured, else by how often past services needed them.",
      lines: lines.filter((line) => line.chance < 1),
    },
    {
      id: "wear",
      title: "To wear",
      hint: STANDING,
      lines: sure.filter((line) => line.carried && line.item.kind === "protective"),
    },
    {
      id: "tools",
      title: "Tools",
      hint: STANDING,
      lines: sure.filter((line) => line.carried && line.item.kind !== "protective"),
    },
  ];
  const [words, setWords] = useState("");
  const named = (line: LoadViewLine): boolean => line.item.name.toLowerCase().includes(words.trim().toLowerCase());
  return (
    <div className="space-y-5">
      {mayChange && (
        <ScanToTick
          words={words}
          onWords={setWords}
          onScan={(code) => {
            const within = lines.filter(({ item }) => item.name.toLowerCase().includes(code.toLowerCase()));
            const line =
              lines.find(
                ({ item }) =>
                  item.scanCode === code ||
                  item.id === code.toLowerCase() ||
                  item.name.toLowerCase() === code.toLowerCase(),
              ) ?? (within.length === 1 ? within[0] : undefined);
            if (!line)
              return within.length > 1
                ? `“${code}” is said of ${within.length} things here.`
                : `“${code}” is not on this list.`;
            ticks.tick([line.key], true);
            return `${line.item.name}: in the van.`;
          }}
        />
      )}
      {ticks.waiting > 0 && (
        <p role="status" className="panel p-3">
          {ticks.waiting} {ticks.waiting === 1 ? "tick waits" : "ticks wait"} for a connection: kept on this device
          until then.
        </p>
      )}
      {groups
        .map((group) => ({ ...group, lines: group.lines.filter(named) }))
        .filter((group) => group.lines.length > 0)
        .map((group) => (
          <section
            key={group.id}
            aria-labelledby={`load-${group.id}`}
            className={`panel break-inside-avoid p-4 ${group.id === "missing" ? "border-2 border-ink" : ""}`}
          >
            <h2 id={`load-${group.id}`} className="text-lg">
              {group.id === "missing" && <span aria-hidden="true">! </span>}
              {group.title}
            </h2>
            {group.hint && <p className="text-sm text-ink-soft">{group.hint}</p>}
            {mayChange && group.id !== "missing" && <TickAll group={group} ticks={ticks} />}
            <ul className="mt-2 divide-y divide-line border-t border-line">
              {group.lines.map((line) => (
                <Line
                  key={line.key}
                  ticks={ticks}
                  line={line}
                  duties={duties}
                  van={van}
                  on={on}
                  nameOf={nameOf}
                  mayChange={mayChange}
                />
              ))}
            </ul>
          </section>
        ))}
    </div>
  );
}

const STANDING = "Stays in the van: looked at once a week, a tick holds as long.";

/** All of a group at once; of what is ticked already nothing changes. */
function TickAll({ group, ticks }: { group: Group; ticks: Ticks }) {
  const open = group.lines.filter((line) => !ticks.shown(line.key, line.ticked));
  if (open.length < 2) return null;
  return (
    <button
      type="button"
      className="btn no-print mt-2"
      onClick={() =>
        ticks.tick(
          open.map((line) => line.key),
          true,
        )
      }
    >
      Tick all {open.length}
      <span className="sr-only"> of “{group.title}”</span>
    </button>
  );
}

function Line({
  ticks,
  line,
  duties,
  van,
  on,
  nameOf,
  mayChange,
}: {
  on: string;
  ticks: Ticks;
  line: LoadViewLine;
  duties: LoadDuty[];
  van: string | null;
  nameOf: (id: string) => string;
  mayChange: boolean;
}) {
  const { item } = line;
  const wanting = line.duties.flatMap((id) => duties.find((duty) => duty.dutyId === id) ?? []);
  const fetchable = line.from.filter((one) => one.placeId !== van);
  return (
    <li className="py-1.5">
      <div className="flex items-start gap-3">
        <Tick line={line} ticks={ticks} disabled={!mayChange} />
        <div className="min-w-0 flex-1 py-2">
          <p className="wrap-anywhere">
            {line.carried ? (
              <span className="font-semibold">{item.name}</span>
            ) : (
              <>
                <Link to={`/stores/items/${encodeURIComponent(item.id)}`} className="font-semibold">
                  {item.name}
                </Link>
                , <span className="figure">{takeAlong(line.qty, item.unit, line.pair)}</span>
              </>
            )}
            {line.lookedAt !== null && line.lookedAt < on && (
              <span className="text-sm text-ink-soft">
                {" "}
                looked at <OnDay on={line.lookedAt} />
              </span>
            )}
            {line.chance < 1 && <> – {chanceWords(line.chance)} that it is wanted</>}
          </p>
          <Disclosure
            title={
              wanting.length === 1
                ? `${must(wanting[0]).title}, ${must(wanting[0]).machineName}`
                : `for ${wanting.length} duties`
            }
            className="text-sm text-ink-soft"
          >
            <ul className="list-disc pl-5">
              {wanting.map((duty) => (
                <li key={duty.dutyId} className="wrap-anywhere">
                  {duty.title}, {duty.machineName}, {duty.siteName}
                </li>
              ))}
              {line.past.map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
            </ul>
          </Disclosure>
          {line.carry && <p className="text-sm">{carryWords(line.carry)}</p>}
          {line.short > 0 && line.chance === 1 && (
            <p className="text-sm font-semibold">
              {quantity(line.short, item.unit)} of {quantity(line.qty, item.unit)} are nowhere in reach.
            </p>
          )}
          {line.short > 0 && line.chance < 1 && (
            <p className="text-sm">
              {line.from.length === 0
                ? "None in reach."
                : `Only ${quantity(line.qty - line.short, item.unit)} in reach.`}
            </p>
          )}
          {item.hazards.length > 0 && (
            <p className="text-sm text-ink-soft wrap-anywhere">
              {item.hazards.join(", ")}
              {item.storage && `: ${item.storage.toLowerCase()}`}
            </p>
          )}
          <LineActions
            mayChange={mayChange}
            fetchable={fetchable}
            line={line}
            van={van}
            item={item}
            nameOf={nameOf}
            wanting={wanting}
          />
        </div>
      </div>
    </li>
  );
}

function Act({
  intent,
  hidden,
  label,
  children,
}: {
  intent: string;
  hidden: Record<string, string>;
  label: string;
  children: React.ReactNode;
}) {
  return (
    <Form method="post" preventScrollReset>
      {Object.entries(hidden).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={value} />
      ))}
      <button name="intent" value={intent} className="btn text-left text-sm" aria-label={label}>
        {children}
      </button>
    </Form>
  );
}

/** Whether a thing is in the van; what could not be kept says so. */
function Tick({ line, ticks, disabled }: { line: LoadViewLine; ticks: Ticks; disabled: boolean }) {
  const fault = ticks.fault(line.key);
  return (
    <span className="shrink-0">
      <label className="grid size-12 place-items-center">
        <input
          type="checkbox"
          aria-label={`${line.item.name}: in the van`}
          aria-invalid={fault ? true : undefined}
          className="size-7"
          checked={ticks.shown(line.key, line.ticked)}
          disabled={disabled}
          onChange={(event) => ticks.tick([line.key], event.target.checked)}
        />
      </label>
      {fault && (
        <span role="alert" className="block w-24 text-sm font-semibold">
          ! {fault}
        </span>
      )}
    </span>
  );
}

/** What can be done about a line: fetched from elsewhere, taken instead, left out. */
function LineActions({
  mayChange,
  fetchable,
  line,
  van,
  item,
  nameOf,
  wanting,
}: {
  mayChange: boolean;
  fetchable: { placeId: string; qty: number }[];
  line: LoadViewLine;
  van: string | null;
  item: Pick<Item, "id" | "name" | "hazards" | "kind" | "unit" | "usesPerPiece" | "storage" | "scanCode">;
  nameOf: (id: string) => string;
  wanting: LoadDuty[];
}) {
  if (!(mayChange && (fetchable.length > 0 || line.instead.length > 0 || (line.short > 0 && line.chance === 1))))
    return null;
  return (
    <div className="no-print mt-1 flex flex-wrap gap-2">
      {van !== null &&
        fetchable.map((one) => (
          <Act
            key={one.placeId}
            intent="fetch"
            hidden={{ item: item.id, from: one.placeId, to: van, qty: String(one.qty) }}
            label={`Move ${quantity(one.qty, item.unit)} of ${item.name} from ${nameOf(one.placeId)}`}
          >
            Move {quantity(one.qty, item.unit)} from {nameOf(one.placeId)}
          </Act>
        ))}
      {van !== null &&
        line.instead.map((one) => (
          <Act
            key={`${one.id} ${one.placeId}`}
            intent={one.placeId === van ? "hold" : "fetch"}
            hidden={{
              item: one.id,
              from: one.placeId,
              to: van,
              qty: String(line.short),
              plan: line.duties[0] ?? "",
            }}
            label={`Take ${one.name} instead of ${item.name}`}
          >
            Take {one.name} instead
          </Act>
        ))}
      {line.short > 0 &&
        line.chance === 1 &&
        wanting.map((duty) => (
          <Act
            key={duty.dutyId}
            intent="postpone"
            hidden={{ plan: duty.dutyId }}
            label={`Leave ${duty.title}, ${duty.machineName}, for another day`}
          >
            Leave {duty.title}, {duty.machineName}, for another day
          </Act>
        ))}
    </div>
  );
}
