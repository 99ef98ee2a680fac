import {
  checksOf,
  type FaultGuide,
  FaultPractice,
  type HiddenFault,
  isMeant,
  type PracticeAct,
  type PracticeLine,
} from "@core";

/** A practice machine as the page shows it: nothing of what is wrong with it but what was seen. */
export interface FaultView {
  symptom: string;
  /** What the machine is fitted with. */
  options: string[];
  minutes: number;
  surfaceC: number;
  states: StateView[];
  checks: { id: string; title: string; how: string; minutes: number; states: string[]; showed: string[] }[];
  causes: { id: string; name: string }[];
  lines: PracticeLine[];
  isStopped: boolean;
}

export interface StateView {
  id: string;
  name: string;
  isIn: boolean;
  /** What has to hold on the way in, and on the way out where there is one. */
  into: string[];
  outOf: string[];
  cautions: string[];
  /** Takes its time: what it is reached by, and how long its clock has run. */
  wait: { minutes: number | null; belowC: number | null; runFor: number | null } | null;
}

/** @param acts everything that was done so far */
export function faultView(guide: FaultGuide, fault: HiddenFault, acts: readonly PracticeAct[]): FaultView {
  const practice = new FaultPractice(guide, fault, acts);
  const { machine, symptom, lines } = practice;
  const names = new Map(guide.states.map((state) => [state.id, state.name]));
  return {
    symptom: symptom.says,
    options: guide.options.flatMap((one) => (fault.options.includes(one.id) ? [one.name] : [])),
    minutes: practice.minutes,
    surfaceC: Math.round(machine.surfaceC),
    states: guide.states.map(({ id, name, in: into, out }) => {
      const begun = machine.begun.get(id);
      const takesTime = into.waitMinutes !== undefined || into.belowC !== undefined;
      return {
        ...{ id, name, isIn: machine.inside.has(id), into: into.checks, outOf: out?.checks ?? [] },
        cautions: into.cautions ?? [],
        wait: takesTime
          ? {
              minutes: into.waitMinutes ?? null,
              belowC: into.belowC ?? null,
              runFor: begun === undefined ? null : practice.minutes - begun,
            }
          : null,
      };
    }),
    // By name: the order of the guide, or of their worth, would say where to look.
    checks: checksOf(guide, fault)
      .map(({ id, title, how, minutes, state = [], clear, finds }) => ({
        ...{ id, title, how, minutes, states: state.map((one) => names.get(one) ?? one) },
        showed: practice.checked.flatMap((one) =>
          one.check === id ? [finds.find(({ cause }) => cause === one.cause)?.shows ?? clear] : [],
        ),
      }))
      .sort((a, b) => a.title.localeCompare(b.title)),
    causes: guide.causes
      .filter((one) => isMeant(one.on, fault.options))
      .map(({ id, name }) => ({ id, name }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    lines,
    isStopped: practice.isStopped,
  };
}
