import { useEffect, useState } from "react";

import type { WorkElsewhere } from "./work-elsewhere.server";

const NOWHERE: readonly WorkElsewhere[] = [];

/** Where to go on at the site, asked for when it is wanted; nowhere without a connection. */
export function useElsewhere(sheetId: string, wanted: boolean): readonly WorkElsewhere[] {
  // Another sheet's answer says where this one is.
  const [answer, setAnswer] = useState({ sheetId, elsewhere: NOWHERE });
  useEffect(() => {
    if (!wanted) return;
    const control = new AbortController();
    const ask = async (): Promise<void> => {
      try {
        const response = await fetch(`/api/sheets/${sheetId}/elsewhere`, { signal: control.signal });
        if (response.ok) setAnswer({ sheetId, ...((await response.json()) as { elsewhere: WorkElsewhere[] }) });
      } catch {
        // No connection: what was known stays.
      }
    };
    void ask();
    return () => control.abort();
  }, [sheetId, wanted]);
  return answer.sheetId === sheetId ? answer.elsewhere : NOWHERE;
}
