import { orderEvents, type RunEvent } from "@core";

import { Notice } from "~/ui/notice";

/** Who has the sheet in hands reads what the colleague who gave it wants them to know. */
export function HandedOver({
  entries,
  me,
  persons,
}: {
  entries: readonly RunEvent[];
  me: string;
  persons: Readonly<Record<string, string>>;
}) {
  const last = orderEvents(entries).findLast((one) => one.type === "handed-over");
  if (last?.type !== "handed-over" || last.to !== me || last.by === me) return null;
  const giver = persons[last.by] ?? "a colleague";
  return (
    <div className="mb-3">
      <Notice title={`Handed over to you by ${giver}`}>{last.note ?? "Nothing was noted."}</Notice>
    </div>
  );
}
