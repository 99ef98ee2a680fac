import { useHydrated } from "~/ui/use-hydrated";

import { alarmWords } from "./alarm-words";
import { useAlarmAbilities } from "./use-alarm";

/** What this device does when time is up, said before one relies on it. */
export function AlarmNotice() {
  const { does, not } = alarmWords(useAlarmAbilities());
  if (!useHydrated()) return null;
  return (
    <p className="mb-4 text-ink-soft">
      {does} {not && <strong className="text-ink">{not}</strong>}
    </p>
  );
}
