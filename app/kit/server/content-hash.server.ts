import { createHash } from "node:crypto";

import canonicalize from "canonicalize";

/** SHA-256 over the canonical JSON (RFC 8785) of a value: the same facts give the same hash, however they were written. */
export function contentHash(value: object): string {
  return createHash("sha256")
    .update(canonicalize(value) ?? "")
    .digest("hex");
}
