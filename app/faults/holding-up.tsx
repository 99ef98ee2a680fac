import { FactList } from "~/ui/fact-list";
import { Why } from "~/ui/why";

import type { HoldingUp } from "./down-time.server";
import { holdingUpBecause, hoursWords, shareWords } from "./holding-up-words";

/** Mean time between failures and to restoration, and the share of time it could be used. */
export function HowItHoldsUp({ figures }: { figures: HoldingUp }) {
  const { mtbfHours, mttrHours, availability } = figures;
  return (
    <div>
      <FactList
        facts={[
          ["Could be used", `${shareWords(availability)} of the time`],
          ["Between failures", mtbfHours === null ? "no failure" : hoursWords(mtbfHours)],
          ["Until it is back", mttrHours === null ? "nothing was repaired" : hoursWords(mttrHours)],
        ]}
      />
      <Why because={holdingUpBecause(figures)} />
    </div>
  );
}
