import type { DutyRow } from "@db";

/** Its day is foretold from what was measured: nothing else brings it about. */
export const isForetold = ({ projected, rules }: Pick<DutyRow, "projected" | "rules">): boolean =>
  projected && !rules.triggers.some((trigger) => trigger.kind === "calendar" || trigger.kind === "meter");
