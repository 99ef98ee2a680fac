import { createContext } from "react-router";

import type { Actor } from "~/kit/actor";

/** Who is signed in; null on pages that are open to everybody. Set by the guard before any loader or action. */
export const actorContext = createContext<Actor | null>(null);

/** The nonce that inline scripts of this response carry. */
export const nonceContext = createContext<string | undefined>(undefined);
/** The caller's address, for counting sign-ins. */
export const addressContext = createContext<string>("unknown");
