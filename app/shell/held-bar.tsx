import { useSyncExternalStore } from "react";

import { heldRequest } from "./held-requests";

/** Says that the server does not answer, and that nothing is lost by it: over the page, which stays where it is. */
export function HeldBar() {
  const held = useSyncExternalStore(heldRequest.subscribe, heldRequest.snapshot, () => null);
  return (
    <div
      role="status"
      className={held ? "no-print absolute inset-x-0 top-full border-b-2 border-ink bg-surface" : "sr-only"}
      data-testid="held"
    >
      {held && (
        <div className="mx-auto flex max-w-6xl flex-wrap items-center gap-x-4 gap-y-2 px-4 py-2 text-sm">
          <p className="flex-1">
            <strong>No answer from the server.</strong>{" "}
            {held.kind === "page"
              ? "The page opens as soon as there is one; go on with something else meanwhile."
              : "What you typed is still here. Sent again, it is done once."}
          </p>
          <button type="button" className="btn" onClick={held.again}>
            {held.kind === "page" ? "Try now" : "Send again"}
          </button>
        </div>
      )}
    </div>
  );
}
