import type { Procedure, RunState, SheetStep } from "@core";
import { renderToStaticMarkup } from "react-dom/server";

import { type SheetFacts, SheetFactsProvider } from "~/sheet/sheet-facts";
import { StepCard } from "~/sheet/step-card";

/** A step of a sheet as it is drawn, open to be worked. */
export const stepMarkup = (
  procedure: Procedure,
  state: RunState,
  one: SheetStep,
  { elapsedMinutes = null, ...facts }: Partial<SheetFacts> & { elapsedMinutes?: number | null } = {},
): string =>
  renderToStaticMarkup(
    <SheetFactsProvider value={{ machine: { options: [] }, instruments: [], today: "2026-06-10", ...facts }}>
      <StepCard
        procedure={procedure}
        state={state}
        one={one}
        open
        log={() => undefined}
        ghosts={{}}
        elapsedMinutes={elapsedMinutes}
      />
    </SheetFactsProvider>,
  );
