import { useSyncExternalStore } from "react";

import { photoOutbox } from "./log/photo-outbox";

/** A picture of the sheet: from this device while it waits to be sent, then from the server. */
export function SheetPhoto({ id, alt }: { id: string; alt: string }) {
  const waiting = useSyncExternalStore(
    photoOutbox.subscribe,
    () => photoOutbox.waitingUrl(id),
    () => null,
  );
  const src = waiting ?? `/photos/${id}`;
  return (
    <a href={src} target="_blank" rel="noreferrer">
      <img src={src} alt={alt} className="h-32 border border-line" />
    </a>
  );
}
