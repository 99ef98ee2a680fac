import type { Meanwhile } from "~/kit/forms/form-answer";
import { Refusal } from "~/kit/refusal";

import { changesOf } from "./audit.server";
import { contentHash } from "./content-hash.server";

/** What a form changes: its fields' names on the page, and how a value is said where its own text does not do. */
export type FieldWords<Settings> = {
  [Name in keyof Settings]-?: readonly [label: string, say?: (value: Settings[Name]) => string];
};

/** Told to a person who would undo what somebody else has changed since the form was opened. */
export class ChangedMeanwhile extends Refusal {
  readonly meanwhile: Meanwhile;

  constructor(meanwhile: Meanwhile) {
    super(
      409,
      "changed-meanwhile",
      `${meanwhile.by || "Somebody"} changed this while you had it open. Nothing of yours was saved. Below is what differs: save again to put yours in its place.`,
    );
    this.meanwhile = meanwhile;
  }
}

function settingsOf<Settings extends object>(row: Settings, words: FieldWords<Settings>): Settings {
  return Object.fromEntries(Object.keys(words).map((name) => [name, row[name as keyof Settings] ?? null])) as Settings;
}

/** Says what a form was filled from, so that it can be told whether that still stands. */
export function seenOf<Settings extends object>(row: Settings, words: FieldWords<Settings>): string {
  return contentHash(settingsOf(row, words)).slice(0, 16);
}

/**
 * Refuses what was typed over something that is not there any more. To be called with the row locked, before it is
 * written: the one who comes second is told what the first one wrote, and decides.
 *
 * @param what.seen what the form was filled from; null when nothing was shown that could be undone
 * @throws ChangedMeanwhile with theirs and yours, field by field
 */
export async function refuseIfChanged<Settings extends object>(
  what: { subject: string; subjectId: string; seen: string | null; theirs: Settings; yours: Settings },
  words: FieldWords<Settings>,
): Promise<void> {
  const { subject, subjectId, seen, theirs, yours } = what;
  const stands = seenOf(theirs, words);
  if (seen === null || seen === stands) return;
  const differ = (Object.keys(words) as (keyof Settings)[]).flatMap((name) => {
    // By what they are: two may be said alike and differ all the same.
    if (hashOf(theirs[name]) === hashOf(yours[name])) return [];
    const [label, say = sayValue] = words[name];
    return [{ what: label, theirs: say(theirs[name]), yours: say(yours[name]) }];
  });
  // Both typed the same: there is nothing to decide.
  if (differ.length === 0) return;
  const [last] = await changesOf(subject, [subjectId], 1);
  throw new ChangedMeanwhile({ by: last?.by ?? "", at: last?.at ?? null, seen: stands, differ });
}

const hashOf = (value: unknown): string => contentHash({ value: value ?? null });

/** A value as a person reads it. */
function sayValue(value: unknown): string {
  if (value === null || value === undefined || value === "") return "–";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.length === 0 ? "–" : value.map(sayValue).join(", ");
  return typeof value === "number" ? String(value) : typeof value === "string" ? value : JSON.stringify(value);
}
