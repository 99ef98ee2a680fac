import { createContext } from "react-router";

/** The nonce that inline scripts of this response carry. */
export const nonceContext = createContext<string | undefined>(undefined);
/** The caller's address, for counting sign-ins. */
export const addressContext = createContext<string>("unknown");
