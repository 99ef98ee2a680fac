import { useEffect, useSyncExternalStore } from "react";
import { Link } from "react-router";
import { outbox } from "./outbox";

/** Sends the person's waiting events from whatever page is open, and says how many are not sent yet. */
export function OutboxStatus({ personId }: { personId: string }) {
  const { waiting, refused, trouble } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  useEffect(() => {
    void outbox.start(personId);
    return () => outbox.stop();
  }, [personId]);

  const mine = waiting.filter((event) => event.by === personId).length;
  const others = waiting.length - mine;
  if (waiting.length === 0 && refused.length === 0) return <p role="status" className="sr-only" data-testid="outbox" data-unsent="0" />;
  return (
    <div className="no-print border-b border-line bg-surface">
      <div className="mx-auto max-w-6xl px-4 py-2 text-sm">
        <p role="status" data-testid="outbox" data-unsent={waiting.length} className="font-semibold">
          {mine > 0 && (
            <>
              <span className="figure">{mine}</span> not sent yet.{" "}
              {trouble === "offline" && "No connection: they are kept on this device and sent as soon as there is one."}
              {trouble === "clock" && "This device's clock is ahead of the server's. Set it; what you logged is kept and sent then."}
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
        {refused.map((entry) => (
          <p key={entry.id} role="alert" className="mt-1">
            <strong>Not taken:</strong> {entry.event.type.replaceAll("-", " ")}. {entry.refusal}{" "}
            <button type="button" className="min-h-8 underline" onClick={() => outbox.dismiss(entry.id)}>
              I have read it
            </button>
          </p>
        ))}
      </div>
    </div>
  );
}
