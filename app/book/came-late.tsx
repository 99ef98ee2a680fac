import { siteTime } from "~/ui/site-time";

import type { RecordView } from "./records.server";

/** What was sent when the record was closed already: to be read, and no part of it. */
export function CameLate({
  list,
  name,
  timeZone,
  signed,
}: {
  list: RecordView["cameLate"];
  name: (id: string) => string;
  timeZone: string;
  signed: boolean;
}) {
  if (list.length === 0) return null;
  return (
    <section className="panel mt-4 p-4">
      <h2 className="mb-2 text-lg">{signed ? "Came after the signature" : "Came after the sheet was ended"}</h2>
      <p className="mb-2 text-sm text-ink-soft">Kept beside the record: it changes nothing in it.</p>
      <ul className="space-y-1">
        {list.map((one) => (
          <li key={one.id} className="wrap-anywhere">
            {one.words}{" "}
            <span className="text-sm text-ink-soft">
              {name(one.by)} <span className="figure">{siteTime(one.at, timeZone)}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Entries whose times nobody can vouch for, with what the device's clock said where that is known. */
export function UncertainTimes({
  list,
  name,
  timeZone,
}: {
  list: RecordView["uncertain"];
  name: (id: string) => string;
  timeZone: string;
}) {
  if (list.length === 0) return null;
  return (
    <section className="panel mt-4 p-4">
      <h2 className="mb-2 text-lg">Times that are not certain</h2>
      <p className="mb-2 text-sm text-ink-soft">
        The device&rsquo;s clock was set or wrong: these are the best that is known.
      </p>
      <ul className="space-y-1">
        {list.map((one) => (
          <li key={one.id} className="wrap-anywhere">
            {one.words}{" "}
            <span className="text-sm text-ink-soft">
              {name(one.by)} <span className="figure">{siteTime(one.at, timeZone)}</span>
              {one.deviceAt && (
                <>
                  , the device said <span className="figure">{siteTime(one.deviceAt, timeZone)}</span>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
