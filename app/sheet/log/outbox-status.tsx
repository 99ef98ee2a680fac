import { useEffect, useState, useSyncExternalStore } from "react";
import { Link } from "react-router";

import { outbox } from "./outbox";
import { photoOutbox } from "./photo-outbox";

/** Sends the person's waiting entries from whatever page is open, and says how many are not sent yet. */
export function OutboxStatus({ personId }: { personId: string }) {
  const { waiting, refused, trouble } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  useEffect(() => {
    void outbox.start(personId);
    void photoOutbox.start(personId);
    return () => {
      outbox.stop();
      photoOutbox.stop();
    };
  }, [personId]);

  const pictures = useSyncExternalStore(photoOutbox.subscribe, photoOutbox.snapshot, photoOutbox.serverSnapshot);
  const photos = pictures.waiting;
  const mine = waiting.filter((entry) => entry.by === personId).length;
  const others = waiting.length - mine;
  const slow = useSlow(mine > 0);
  const photosSlow = useSlow(photos > 0);
  const shown =
    refused.length > 0 ||
    pictures.refused.length > 0 ||
    others > 0 ||
    (mine > 0 && (slow || trouble !== "none")) ||
    (photos > 0 && photosSlow);
  // Over the page, never in it: a bar that pushes the page down moves a button away from under the thumb.
  return (
    <div
      data-testid="outbox"
      data-unsent={waiting.length}
      className={
        shown
          ? "no-print fixed inset-x-0 bottom-[5.2rem] z-20 border-y-2 border-ink bg-surface sm:bottom-0 sm:border-b-0"
          : "sr-only"
      }
    >
      <div className="mx-auto max-w-6xl px-4 py-2 text-sm">
        {shown && photos > 0 && (
          <p role="status" className="font-semibold">
            <span className="figure">{photos}</span> {photos === 1 ? "picture" : "pictures"} not sent yet: kept on this
            device.
          </p>
        )}
        <p role="status" className="font-semibold">
          {shown && mine > 0 && (
            <>
              <span className="figure">{mine}</span> not sent yet.{" "}
              {trouble === "offline" && "No connection: they are kept on this device and sent as soon as there is one."}
              {trouble === "clock" &&
                "This device's clock does not agree with the server's. Set it; what you logged is kept and sent then."}
              {trouble === "sign-in" && (
                <>
                  <Link to="/sign-in" reloadDocument>
                    Sign in again
                  </Link>{" "}
                  to send them; they are kept.
                </>
              )}
            </>
          )}
          {others > 0 && ` ${others} logged by another person wait for them to sign in on this device.`}
        </p>
        {pictures.refused.map((one) => (
          <p key={one.id} role="alert" className="mt-1">
            <strong>Picture not taken:</strong> {one.refusal}{" "}
            <button type="button" className="min-h-8 underline" onClick={() => photoOutbox.dismiss(one.id)}>
              I have read it
            </button>
          </p>
        ))}
        {refused.map((entry) => (
          <p key={entry.id} role="alert" className="mt-1">
            <strong>Not taken:</strong> {entry.entry.type.replaceAll("-", " ")}. {entry.refusal}{" "}
            <button type="button" className="min-h-8 underline" onClick={() => outbox.dismiss(entry.id)}>
              I have read it
            </button>
          </p>
        ))}
      </div>
    </div>
  );
}

const SLOW_MS = 1500;

/** True when something has gone on for longer than a good connection takes. */
function useSlow(going: boolean): boolean {
  const [slowSince, setSlowSince] = useState(false);
  useEffect(() => {
    if (!going) return;
    const timer = setTimeout(() => setSlowSince(true), SLOW_MS);
    return () => {
      clearTimeout(timer);
      setSlowSince(false);
    };
  }, [going]);
  return going && slowSince;
}
