import { useState } from "react";

import { useRootData } from "~/people/use-me";

/** Server time minus this device's, taken once when the page comes up. */
export function useClockOffset(): number {
  const serverNow = useRootData()?.serverNow ?? 0;
  const [offset] = useState(() => {
    const difference = serverNow - Date.now();
    // A page that was under way for a moment is no wrong clock.
    return Math.abs(difference) > 10_000 ? difference : 0;
  });
  return offset;
}
