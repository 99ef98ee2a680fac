import { Form, Link, useNavigation } from "react-router";

import { ThumbBar } from "~/ui/thumb-bar";

import type { NextAct } from "./today-stops";

const LOOK = "btn w-full min-w-0 sm:w-auto sm:max-w-md";

/** The day's next step and the next sheet, where the thumb is. */
export function NextBar({
  main,
  sheet,
  dayHref,
  eveningHref,
}: {
  main: NextAct;
  sheet: NextAct | null;
  dayHref: string;
  eveningHref: string;
}) {
  const busy = useNavigation().state !== "idle";
  const links = { dayHref, eveningHref, busy };
  return (
    <ThumbBar>
      <Act act={main} look={`${LOOK} btn-main`} {...links} />
      {sheet && <Act act={sheet} look={LOOK} {...links} />}
    </ThumbBar>
  );
}

function Act({
  act,
  look,
  dayHref,
  eveningHref,
  busy,
}: {
  act: NextAct;
  look: string;
  dayHref: string;
  eveningHref: string;
  busy: boolean;
}) {
  switch (act.kind) {
    case "plan":
      return (
        <Link to={dayHref} className={look}>
          Plan the day
        </Link>
      );
    case "evening":
      return (
        <Link to={eveningHref} className={look}>
          What became of the day
        </Link>
      );
    case "sheet":
      return (
        <Link to={act.to} className={look} title={act.says}>
          <span className="truncate">{act.says}</span>
        </Link>
      );
    case "start":
      return <Step intent="started" words="Start the day" look={look} busy={busy} />;
    case "end":
      return <Step intent="ended" words="End the day" look={look} busy={busy} />;
    case "arrive":
      return <Step intent="arrived" site={act.site} words={`Arrived at ${act.name}`} look={look} busy={busy} />;
    case "leave":
      return <Step intent="left" site={act.site} words={`Leave ${act.name}`} look={look} busy={busy} />;
  }
}

function Step({
  intent,
  site,
  words,
  look,
  busy,
}: {
  intent: string;
  site?: string;
  words: string;
  look: string;
  busy: boolean;
}) {
  return (
    <Form method="post">
      {site !== undefined && <input type="hidden" name="site" value={site} />}
      <button className={look} name="intent" value={intent} aria-disabled={busy} title={words}>
        <span className="truncate">{words}</span>
      </button>
    </Form>
  );
}
