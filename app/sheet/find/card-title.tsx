import type { ReactNode } from "react";

import { CARD_TITLE } from "../use-heading-focus";

/** The heading of the check or gate in sight: the focus goes to it when it comes in the place of another. */
export function CardTitle({ children }: { children: ReactNode }) {
  return (
    <h3
      id={CARD_TITLE}
      tabIndex={-1}
      className="scroll-mt-28 text-xl font-semibold outline-none sm:scroll-mt-44 sm:text-2xl"
    >
      {children}
    </h3>
  );
}
