import { useState } from "react";

import { FamilyGlyph } from "~/ui/family-glyph";
import { familyName } from "~/ui/family-names";

import { OTHER_FAMILY } from "./new-machine-schemas";

/** What kind of machine it is, by picture and name. Once chosen, only that one is shown. */
export function FamilyPicker({
  families,
  chosen,
  onChoose,
  errors,
}: {
  families: readonly string[];
  chosen: string;
  onChoose: (family: string) => void;
  errors: string[] | undefined;
}) {
  const [open, setOpen] = useState(chosen === "");
  const shown = open ? [...families, OTHER_FAMILY] : [chosen];
  return (
    <fieldset className="mb-2" aria-describedby={errors ? "family-error" : undefined}>
      <legend className="mb-1 font-semibold">What it is</legend>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3 lg:grid-cols-4">
        {shown.map((family) => (
          <label
            key={family}
            className="flex min-h-12 cursor-pointer items-center gap-2 border-2 border-line bg-surface p-2 text-sm has-checked:border-ink has-checked:font-semibold has-focus-visible:outline-2 has-focus-visible:outline-offset-2"
          >
            <input
              type="radio"
              name="family"
              value={family}
              checked={family === chosen}
              onChange={() => {
                onChoose(family);
                setOpen(false);
              }}
              className="sr-only"
            />
            <FamilyGlyph family={family} size={28} />
            <span className="min-w-0 wrap-anywhere">
              {family === OTHER_FAMILY ? "Another one" : familyName(family)}
            </span>
          </label>
        ))}
        {!open && (
          <button type="button" className="btn justify-self-start" onClick={() => setOpen(true)}>
            Choose another
          </button>
        )}
      </div>
      <p id="family-error" role={errors ? "alert" : undefined} className="min-h-6 text-sm font-semibold">
        {errors && <span aria-hidden="true">! </span>}
        {errors?.join(" ")}
      </p>
    </fieldset>
  );
}
