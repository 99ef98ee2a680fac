import { useState } from "react";

import { shrinkPhoto } from "./shrink-photo";

/** A picture from the camera, made smaller before it is sent: signals in basements are thin. */
export function PhotoField({ name, label }: { name: string; label: string }) {
  const [says, setSays] = useState("");
  return (
    <div>
      <label htmlFor={`photo-${name}`} className="mb-1 block font-semibold">
        {label}
      </label>
      <input
        id={`photo-${name}`}
        name={name}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        capture="environment"
        className="field py-2"
        onChange={(event) => {
          const input = event.currentTarget;
          const file = input.files?.[0];
          if (!file) return;
          setSays("Making it smaller …");
          void shrinkPhoto(file).then(
            (smaller) => {
              const list = new DataTransfer();
              list.items.add(smaller);
              input.files = list.files;
              setSays(`${Math.max(1, Math.round(smaller.size / 1024))} kB`);
            },
            // The server makes it smaller too: it is only slower to send.
            () => setSays(""),
          );
        }}
      />
      <p className="min-h-6 text-sm text-ink-soft" aria-live="polite">
        {says}
      </p>
    </div>
  );
}
