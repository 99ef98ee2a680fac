import { checkProcedure, type LintFinding, lintProcedure, type Procedure } from "@core";

import type { DraftFaults } from "~/procedures/drafts.server";

import { faultInWords } from "./fault-words";

export interface Mend extends LintFinding {
  /** The reference fault's own place, when it is none of the linter's. */
  path?: string;
}

/** All that a draft has to mend: references that do not hold, and what is not good practice. */
export function mendsOf(procedure: Procedure): Mend[] {
  try {
    const faults = checkProcedure(procedure).map(({ path, message }): Mend => {
      const index = /^steps\[(\d+)\]/.exec(path)?.[1];
      const step = index === undefined ? undefined : procedure.steps[Number(index)]?.id;
      return { rule: "reference", severity: "error", message, path, ...(step === undefined ? {} : { step }) };
    });
    return [...faults, ...lintProcedure(procedure)];
  } catch (error) {
    // A half-written draft of another program may have lists of another shape.
    return [
      { rule: "form", severity: "error", message: `A list is not in the form it needs (${(error as Error).message}).` },
    ];
  }
}

/** What the server would refuse, in the words of the editor's fields. */
export function mendsOfServer(faults: DraftFaults, procedure: Procedure): Mend[] {
  return [
    ...faults.form.map((fault): Mend => {
      const { step, words } = faultInWords(fault, procedure);
      return { rule: "form", severity: "error", message: words, ...(step === undefined ? {} : { step }) };
    }),
    ...faults.whole.map((message): Mend => ({ rule: "whole", severity: "error", message })),
  ];
}
