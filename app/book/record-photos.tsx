import { useEffect, useRef, useSyncExternalStore } from "react";
import { useRevalidator } from "react-router";

import { photoOutbox } from "~/sheet/log/photo-outbox";

import type { Route } from "./+types/record.route";

type Data = Route.ComponentProps["loaderData"];

export function RecordPhotos({
  state,
  photos,
  name,
}: {
  state: Data["state"];
  photos: Data["photos"];
  name: (id: string) => string;
}) {
  useWhenSent();
  if (state.photos.length === 0) return null;
  return (
    <section className="mb-6">
      <h2 className="mb-2 text-lg">Pictures</h2>
      <ul className="flex flex-wrap gap-3">
        {state.photos.map((one) => (
          <li key={one.eventId} className="max-w-60">
            {photos.includes(one.photo) ? (
              <a href={`/photos/${one.photo}`}>
                <img
                  src={`/photos/${one.photo}`}
                  alt={one.caption ?? "Picture of the work"}
                  className="max-h-48 border border-line"
                  loading="lazy"
                />
              </a>
            ) : (
              <p className="panel p-3 text-sm">
                A picture that has not arrived yet: it is still on the device of {name(one.by)}.
              </p>
            )}
            {one.caption && <p className="text-sm wrap-anywhere">{one.caption}</p>}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Loads the record again when this device's pictures have gone. */
function useWhenSent(): void {
  const { waiting } = useSyncExternalStore(photoOutbox.subscribe, photoOutbox.snapshot, photoOutbox.serverSnapshot);
  const { revalidate } = useRevalidator();
  const before = useRef(waiting);
  useEffect(() => {
    if (waiting < before.current) void revalidate();
    before.current = waiting;
  }, [waiting, revalidate]);
}
