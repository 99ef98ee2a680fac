import type { Procedure } from "@core";

/** What pieces are called that are always renewed together. */
export const together = ({ slots }: Pick<Procedure["parts"][number], "slots">): string =>
  slots.length > 2 ? "a set" : "a pair";
