import type { Procedure, Step } from "../procedure";

export const GATE: Extract<Step, { kind: "safety" }> = {
  id: "gate",
  kind: "safety",
  title: "Make it safe",
  checks: ["Off"],
};
export const PROOF: Extract<Step, { kind: "prove" }> = { id: "proof", kind: "prove", title: "Prove", expect: "Works" };

/** A part that is renewed in both its places. */
export const BLADES = {
  item: "blade",
  name: "Blade",
  pair: true,
  slots: [
    { id: "l", name: "Left" },
    { id: "r", name: "Right" },
  ],
};

/** A sound procedure between a safety gate and a proof. */
export function sample(inner: readonly Step[] = [], more: Partial<Procedure> = {}): Procedure {
  return {
    format: "humble-hound/procedure",
    formatVersion: 1,
    id: "sample",
    version: 1,
    title: "Sample",
    family: "any",
    summary: "Typical figures.",
    who: "technician",
    minutes: { handsOn: 1, waiting: 0 },
    plan: { triggers: [{ kind: "event", event: "x" }] },
    hazards: [],
    protective: [],
    tools: [],
    materials: [],
    parts: [],
    options: [],
    meters: [],
    steps: [GATE, ...inner, PROOF],
    ...more,
  };
}

/** A step of work, or of another kind with what that kind needs. */
export const doing = (id: string, more: object = {}): Step => ({ id, kind: "do", title: id, ...more });
