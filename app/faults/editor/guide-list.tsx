import type { FaultGuide } from "@core";
import { clsx } from "clsx";

import { Disclosure } from "~/ui/disclosure";

import { type ListName, LISTS } from "./guide-fields";

export type Chosen = { section: string } | { list: ListName; at: number };

/** The rows of a guide by list, each a tap away. */
export function GuideLists({
  guide,
  chosen,
  onChoose,
  onAdd,
}: {
  guide: FaultGuide;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  onAdd: (list: ListName) => void;
}) {
  return (Object.keys(LISTS) as ListName[]).map((list) => (
    <nav key={list} aria-label={LISTS[list].title} className="mt-3">
      <Disclosure
        title={`${LISTS[list].title} (${guide[list].length})`}
        look="strong"
        open={"list" in chosen && chosen.list === list}
      >
        <ul>
          {guide[list].map((row, at) => {
            const isChosen = "list" in chosen && chosen.list === list && chosen.at === at;
            return (
              <li key={`${row.id} ${at}`}>
                <button
                  type="button"
                  aria-current={isChosen ? "true" : undefined}
                  className={clsx(
                    "min-h-11 w-full border-l-4 px-3 py-1.5 text-left wrap-anywhere",
                    isChosen ? "border-tan-fill bg-surface font-semibold" : "border-transparent",
                  )}
                  onClick={() => onChoose({ list, at })}
                >
                  {nameOf(list, row) || "(no name)"}
                </button>
              </li>
            );
          })}
        </ul>
        <button type="button" className="btn mt-1" onClick={() => onAdd(list)}>
          Add a {LISTS[list].one}
        </button>
      </Disclosure>
    </nav>
  ));
}

/** What a row is called. */
export function nameOf(list: ListName, row: object): string {
  const name = (row as Record<string, unknown>)[LISTS[list].named];
  return typeof name === "string" ? name : "";
}
