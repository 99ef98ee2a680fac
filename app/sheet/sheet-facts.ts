import type { MachineFacts } from "@core";
import { createContext, useContext } from "react";

import type { LearnedFaults } from "./find/learned-faults.server";
import type { WearFacts } from "./steps/wear-of-step";

/** How functions of a proof came out before, the latest first. */
export type PastTrials = Record<string, { on: string; ok: boolean; note: string | null }[]>;

/** What a step needs to know beside its definition and its log. */
export interface SheetFacts {
  machine: MachineFacts;
  /** Measuring instruments of the kinds that the sheet asks for. */
  instruments: { id: string; code: string; kind: string; name: string; calibrationDue: string | null }[];
  /** The site's day. */
  today: string;
  pastTrials?: PastTrials;
  /** Of a fault: what was learned of its causes, and when they were found here before. */
  learned?: LearnedFaults;
  /** What is known of how far its parts are worn. */
  wear?: WearFacts;
  /** Whose hands the sheet is in; absent where nothing is logged. */
  hands?: { sheetId: string; me: string; isLead: boolean; nameOf: (person: string) => string };
}

const Context = createContext<SheetFacts>({ machine: { options: [] }, instruments: [], today: "" });

export const SheetFactsProvider = Context.Provider;
export const useSheetFacts = (): SheetFacts => useContext(Context);
