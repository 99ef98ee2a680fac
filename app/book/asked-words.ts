import type { SheetStep } from "@core";

/** What a record says of values that somebody was asked about, and of such as cannot be, a sentence each. */
export function askedWords({ state }: Pick<SheetStep, "state">): string[] {
  return (state?.readings ?? []).flatMap(({ value, unit, asked, impossible }) => {
    const said = `${value} ${unit}`;
    if (impossible) return [`${said} cannot be: it counts nowhere`];
    if (asked?.answer === "right") return [`${said} is unusual here: asked about, and right`];
    if (asked?.answer !== "replaced") return [];
    const old = asked.oldValue === undefined ? "" : `, the old one showed ${asked.oldValue} ${unit} at last`;
    return [`${said} on a new meter${old}`];
  });
}
