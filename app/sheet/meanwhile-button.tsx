import type { SheetStep } from "@core";
import type { ReactNode } from "react";
import { Link } from "react-router";

import type { Meanwhile } from "./meanwhile";

/** Where to go on while a clock runs: on this machine, else on the next one of the visit; null when there is nothing. */
export function meanwhileButton(
  meanwhile: Meanwhile | null,
  elsewhere: readonly { to: string; machine: string; what: string }[],
  onOpen: (step: SheetStep) => void,
): ReactNode {
  if (!meanwhile || meanwhile.minutes < 1) return null;
  const { minutes, head } = meanwhile;
  const words = (what: string): ReactNode => (
    <span>
      <span className="figure">{minutes} min</span> free: {what}
    </span>
  );
  if (head)
    return (
      <button type="button" className="btn btn-main btn-big" onClick={() => onOpen(head)}>
        {words(head.definition.title)}
      </button>
    );
  const [other] = elsewhere;
  if (!other) return null;
  return (
    <Link to={other.to} className="btn btn-main btn-big">
      {words(`${other.machine}, ${other.what}`)}
    </Link>
  );
}
