import type { Role } from "@db";
import { useRouteLoaderData } from "react-router";

/** The signed-in person, as every page may know them. */
export interface Me {
  id: string;
  name: string;
  role: Role;
}

/** What the root loader gives every page. */
export interface RootData {
  theme: string | null;
  person: Me | null;
  /** Where the firm is. */
  timeZone: string;
  /** Milliseconds since 1970 on the server's clock when the page was loaded. */
  serverNow: number;
}

export function useRootData(): RootData | undefined {
  return useRouteLoaderData<RootData>("root");
}

/** The signed-in person; null before signing in and on an error page without a loader's answer. */
export function useMe(): Me | null {
  return useRootData()?.person ?? null;
}

export function useIsLead(): boolean {
  return useMe()?.role === "lead";
}
