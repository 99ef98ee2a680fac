import { Form } from "react-router";

import type { LinkView } from "~/kit/server/links.server";

import { Notice } from "./notice";

/** Addresses of a calendar: those that work, one to make, and the new one to copy while it is shown. */
export function CalendarLinks({ links, made }: { links: readonly LinkView[]; made: string | null }) {
  return (
    <>
      {made && (
        <div className="mt-3">
          <Notice title="Copy this address now: it is shown once.">
            <label htmlFor="feed-url" className="sr-only">
              Address of the calendar
            </label>
            <input
              id="feed-url"
              readOnly
              className="field figure mt-1 text-sm"
              value={made}
              onFocus={(event) => event.currentTarget.select()}
            />
            <p className="mt-1 text-sm">
              Whoever has it can read this calendar. End it here if it gets into wrong hands.
            </p>
          </Notice>
        </div>
      )}
      {links.length === 0 ? (
        <p className="mt-2 text-sm">No address yet.</p>
      ) : (
        <ul className="mt-2">
          {links.map((link) => (
            <li key={link.id} className="flex flex-wrap items-center gap-3 text-sm">
              <span>
                Made <span className="figure">{new Date(link.madeAt).toISOString().slice(0, 10)}</span> by {link.by}
              </span>
              <Form method="post">
                <input type="hidden" name="link" value={link.id} />
                <button
                  name="intent"
                  value="revoke"
                  className="min-h-11 underline"
                  aria-label={`End the address made ${new Date(link.madeAt).toISOString().slice(0, 10)}`}
                >
                  End it
                </button>
              </Form>
            </li>
          ))}
        </ul>
      )}
      <Form method="post">
        <button name="intent" value="make" className="btn btn-main mt-2">
          Make an address
        </button>
      </Form>
    </>
  );
}
