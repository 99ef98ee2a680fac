import { Form } from "react-router";

import type { LinkView } from "~/kit/server/links.server";

import { MadeLinks, NewLink } from "./made-links";

/** Addresses of a calendar: those that work, one to make, and the new one to copy while it is shown. */
export function CalendarLinks({ links, made }: { links: readonly LinkView[]; made: string | null }) {
  return (
    <>
      {made && (
        <NewLink title="Copy this address now: it is shown once." label="Address of the calendar" value={made}>
          <p className="mt-1 text-sm">
            Whoever has it can read this calendar. End it here if it gets into wrong hands.
          </p>
        </NewLink>
      )}
      <MadeLinks links={links} what="address" />
      <Form method="post">
        <button name="intent" value="make" className="btn btn-main mt-2">
          Make an address
        </button>
      </Form>
    </>
  );
}
