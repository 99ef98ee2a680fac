import { AtSite } from "~/ui/day";

import type { RecordView } from "./records.server";

/** Entries that stand apart from a record, to be read one by one. */
export function EntriesBeside({
  title,
  note,
  list,
  name,
  timeZone,
}: {
  title: string;
  note: string;
  list: RecordView["cameLate"] | RecordView["uncertain"];
  name: (id: string) => string;
  timeZone: string;
}) {
  if (list.length === 0) return null;
  return (
    <section className="panel mt-4 p-4">
      <h2 className="mb-2 text-lg">{title}</h2>
      <p className="mb-2 text-sm text-ink-soft">{note}</p>
      <ul className="space-y-1">
        {list.map((one) => (
          <li key={one.id} className="wrap-anywhere">
            {one.words}{" "}
            <span className="text-sm text-ink-soft">
              {name(one.by)} <AtSite at={one.at} timeZone={timeZone} />
              {"deviceAt" in one && one.deviceAt && (
                <>
                  , the device said <AtSite at={one.deviceAt} timeZone={timeZone} />
                </>
              )}
              {"cameAt" in one && one.cameAt && (
                <>
                  , came <AtSite at={one.cameAt.toISOString()} timeZone={timeZone} />
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
