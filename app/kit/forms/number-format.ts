import { type NumberFormat, readNumber } from "@core";

/** How numbers are written in a language (BCP 47 tag). */
export function numberFormatOf(language: string | undefined): NumberFormat {
  const parts = new Intl.NumberFormat(language, { useGrouping: true }).formatToParts(1_234_567.5);
  const sign = (type: string): string | undefined => parts.find((part) => part.type === type)?.value;
  const group = sign("group");
  return {
    decimal: sign("decimal") === "," ? "," : ".",
    // A blank or an apostrophe, of whatever width, groups for everybody.
    group: group === "." || group === "," ? group : null,
  };
}

let known: NumberFormat | null = null;

/** The person's own, by their browser's language; without a browser a point and no groups. */
export function ownFormat(): NumberFormat {
  if (typeof document === "undefined") return { decimal: ".", group: null };
  return (known ??= numberFormatOf(navigator.language));
}

/** A value as a person would type it, so that it can be read in one way only. */
export function asTyped(value: number, { decimal }: NumberFormat): string {
  const text = String(value).replace(".", decimal);
  return readNumber(text, { decimal, group: null }).kind === "ambiguous" ? `${text}0` : text;
}
