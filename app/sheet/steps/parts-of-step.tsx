import type { Ledger, SheetStep } from "@core";

import { partsInWords, toGoBack } from "~/sheet/parts-in-words";
import { SheetPhoto } from "~/sheet/sheet-photo";

/** What comes off or goes back on with a step: how many, which way round, where it is, and how it looked. */
export function PartsOfStep({ one, ledger, photos }: { one: SheetStep; ledger: Ledger; photos: readonly string[] }) {
  const { takesOff = [], putsBack = [] } = one.definition;
  if (takesOff.length === 0 && putsBack.length === 0) return null;
  const rows = [
    ...takesOff.map((part) => ({ ...part, word: "Comes off" })),
    ...(putsBack.length > 0 ? toGoBack(putsBack, ledger) : []).map((part) => ({ ...part, word: "Goes back on" })),
  ];
  return (
    <div className="mt-4">
      <ul className="space-y-1">
        {rows.map(({ word, item, count, wayRound, place }) => (
          <li key={`${word} ${item}`} className="flex flex-wrap gap-x-3 text-lg">
            <span className="text-ink-soft">{word}:</span>
            <strong>{partsInWords({ item, count })}</strong>
            {wayRound && <span>{wayRound}</span>}
            {place && <span>· {place}</span>}
          </li>
        ))}
      </ul>
      {putsBack.length > 0 && photos.length > 0 && (
        <ul aria-label="As it was" className="mt-3 flex flex-wrap gap-2">
          {photos.map((photo) => (
            <li key={photo}>
              <SheetPhoto id={photo} alt="As it was before it came off" />
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** Pictures taken at the steps that took off what a step puts back. */
export function photosOfRemoval(
  one: SheetStep,
  steps: readonly { id: string; takesOff?: { item: string }[] }[],
  photos: readonly { photo: string; step: string | null }[],
): string[] {
  const items = new Set((one.definition.putsBack ?? []).map((part) => part.item));
  const takers = new Set(
    steps.flatMap((step) => ((step.takesOff ?? []).some((part) => items.has(part.item)) ? [step.id] : [])),
  );
  return photos.flatMap(({ photo, step }) => (step !== null && takers.has(step) ? [photo] : []));
}
