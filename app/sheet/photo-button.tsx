import type { RunEventBody, SheetStep } from "@core";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";

import { photoOutbox } from "~/sheet/log/photo-outbox";
import { shrinkPhoto } from "~/ui/shrink-photo";

export const NO_PICTURE = "This file is no picture that can be read. Take a JPEG or PNG.";

/** Makes a picture smaller and keeps it until it is sent: its id. Rejects what the browser cannot read as a picture. */
export async function keepPhoto(sheetId: string, file: File): Promise<string> {
  const id = uuidv7();
  photoOutbox.add({ id, sheetId, bytes: await shrinkPhoto(file) });
  return id;
}

/** A picture of what is in front of you, on the step it belongs to. */
export function PhotoButton({
  label,
  sheetId,
  one,
  log,
}: {
  label: string;
  sheetId: string;
  one: SheetStep | null;
  log: (...bodies: RunEventBody[]) => void;
}) {
  const [problem, setProblem] = useState("");
  return (
    <>
      <label className="btn cursor-pointer focus-within:outline-3 focus-within:outline-offset-2 focus-within:outline-(--tan)">
        {label}
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (!file) return;
            void keepPhoto(sheetId, file).then(
              (photo) => {
                setProblem("");
                log({ type: "photo", photo, ...(one ? { step: one.step, round: one.round } : {}) });
              },
              () => setProblem(NO_PICTURE),
            );
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="w-full font-semibold">
          ! {problem}
        </p>
      )}
    </>
  );
}
