import { useEffect } from "react";

import { useRootData } from "~/people/use-me";

import { serverClock } from "./server-clock";

/** The server's time on this page, from the moment it came up. */
export function useServerClock(): typeof serverClock {
  const serverNow = useRootData()?.serverNow ?? 0;
  useEffect(() => {
    serverClock.begin(serverNow);
  }, [serverNow]);
  return serverClock;
}
