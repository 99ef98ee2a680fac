import { useState } from "react";

const LONGEST_SIDE = 1600;

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
          void shrink(file).then(
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

async function shrink(file: File): Promise<File> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext("2d")!.drawImage(picture, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/jpeg", 0.8));
  if (!blob || blob.size >= file.size) return file;
  return new File([blob], "photo.jpg", { type: "image/jpeg" });
}
