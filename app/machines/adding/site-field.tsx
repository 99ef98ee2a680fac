import type { FieldMetadata } from "@conform-to/react";

import { TextField } from "~/ui/form";

/** A site by its name, typed or taken of those there are; the server knows which is meant. */
export function SiteField({ field, sites }: { field: FieldMetadata<string>; sites: readonly string[] }) {
  const list = `${field.id}-sites`;
  return (
    <>
      <TextField field={field} label="Site" list={list} autoComplete="off" />
      <datalist id={list}>
        {sites.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </>
  );
}
