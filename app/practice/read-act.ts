import type { PracticeAct } from "@core";

import { Refusal } from "~/kit/refusal";

/** What a button says, as an act; what it needs and does not have is asked for. */
export function readAct({
  act,
  what,
  cause,
  minutes,
}: {
  act: PracticeAct["act"];
  what?: string | undefined;
  cause?: string | undefined;
  minutes?: number | undefined;
}): PracticeAct {
  switch (act) {
    case "begin":
    case "enter":
    case "leave":
      return { act, state: needed(what) };
    case "check":
      return { act, check: needed(what) };
    case "wait":
      return { act, minutes: minutes ?? 5 };
    case "remedy":
    case "hand-over":
      if (!cause) throw new Refusal(422, "cause", "Choose what it is.");
      return { act, cause };
    default:
      return { act };
  }
}

function needed(what: string | undefined): string {
  if (!what) throw new Refusal(422, "what", "This button is not known any more. Load the page again.");
  return what;
}
