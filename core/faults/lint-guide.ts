import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { StateRules } from "../sheet/states";
import type { FaultGuide, OptionClause } from "./guide";

export interface GuideFinding {
  rule: string;
  severity: "error" | "warning";
  /** What to mend, such as `causes.strainer`; absent when the whole guide is meant. */
  at?: string;
  message: string;
}

type Found = Omit<GuideFinding, "rule" | "severity">;

/**
 * Whether a fault guide holds together and is good practice (common practice, no single source); it may be a draft.
 *
 * @returns what to mend, in the order of the rules; [] when clean
 */
export function lintGuide(guide: FaultGuide): GuideFinding[] {
  requireRecord(guide, "guide");
  for (const list of ["symptoms", "checks", "causes", "states", "options", "parts", "materials"] as const)
    requireList<unknown>(guide[list], `guide.${list}`);
  return RULES.flatMap(({ rule, severity, find }) => find(guide).map((found) => ({ rule, severity, ...found })));
}

/** Every rule with what it wants. */
export function guideRules(): { rule: string; severity: GuideFinding["severity"]; wants: string }[] {
  return RULES.map(({ rule, severity, wants }) => ({ rule, severity, wants }));
}

const RULES: readonly {
  rule: string;
  severity: GuideFinding["severity"];
  wants: string;
  find: (guide: FaultGuide) => Found[];
}[] = [
  { rule: "own-id", severity: "error", wants: "Every symptom, check and cause has an id of its own", find: idsTwice },
  { rule: "reference", severity: "error", wants: "What is named is there", find: namedInVain },
  {
    rule: "cause-found",
    severity: "error",
    wants: "Some check finds every cause of a symptom",
    find: causesNeverFound,
  },
  { rule: "cause-behind", severity: "error", wants: "Every cause is behind some symptom", find: causesBehindNothing },
  {
    rule: "check-needed",
    severity: "error",
    wants: "Every check finds a cause that some symptom has",
    find: idleChecks,
  },
  {
    rule: "way-out",
    severity: "error",
    wants: "Every cause has a remedy here, or somebody it is handed to; licensed and authorised work is handed over",
    find: withoutWayOut,
  },
  {
    rule: "power-under-lock",
    severity: "error",
    wants: "Nothing is checked with power while it is locked out",
    find: powerUnderLock,
  },
  {
    rule: "licensed-work",
    severity: "warning",
    wants: "Refrigerant, mains and electronics are not remedied by a technician",
    find: licensedWork,
  },
  {
    rule: "handling",
    severity: "warning",
    wants: "What comes of handling says what the operator should know",
    find: lessonsMissing,
  },
];

function idsTwice({ symptoms, checks, causes }: FaultGuide): Found[] {
  return Object.entries({ symptoms, checks, causes }).flatMap(([list, all]) => {
    const seen = new Set<string>();
    return all.flatMap(({ id }) => {
      const twice = seen.has(id);
      seen.add(id);
      return twice ? [{ at: `${list}.${id}`, message: `"${id}" is there twice.` }] : [];
    });
  });
}

function namedInVain(guide: FaultGuide): Found[] {
  const causes = new Set(guide.causes.map((one) => one.id));
  const states = new Set(guide.states.map((one) => one.id));
  const options = new Set(guide.options.map((one) => one.id));
  const parts = new Map(guide.parts.map((one) => [one.item, new Set(one.slots.map((slot) => slot.id))]));
  const materials = new Set(guide.materials.map((one) => one.item));
  const found: Found[] = [];
  const want = (is: boolean, at: string, what: string): void => {
    if (!is) found.push({ at, message: `${what} is not in this guide.` });
  };
  const optionsOf = (at: string, on: OptionClause[] = []): void => {
    for (const { option } of on) want(options.has(option), at, `The option "${option}"`);
  };
  for (const { id, causes: behind, on } of guide.symptoms) {
    for (const { cause } of behind) want(causes.has(cause), `symptoms.${id}`, `The cause "${cause}"`);
    optionsOf(`symptoms.${id}`, on);
  }
  for (const { id, finds, state = [], on } of guide.checks) {
    for (const { cause } of finds) want(causes.has(cause), `checks.${id}`, `The cause "${cause}"`);
    for (const one of state) want(states.has(one), `checks.${id}`, `The state "${one}"`);
    optionsOf(`checks.${id}`, on);
  }
  for (const { id, remedy = [], on } of guide.causes) {
    optionsOf(`causes.${id}`, on);
    for (const step of remedy) {
      for (const one of step.state ?? []) want(states.has(one), `causes.${id}`, `The state "${one}"`);
      for (const { item } of step.uses ?? []) want(materials.has(item), `causes.${id}`, `The material "${item}"`);
      if (step.kind !== "replace" && step.kind !== "turn") continue;
      for (const slot of step.slots)
        want(
          parts.get(step.item)?.has(slot) ?? false,
          `causes.${id}`,
          `The part "${step.item}" with its place "${slot}"`,
        );
    }
  }
  return found;
}

/** Whether two conditions can hold on one machine. */
const together = (a: OptionClause[] = [], b: OptionClause[] = []): boolean =>
  a.every((one) => b.every((other) => one.option !== other.option || one.fitted === other.fitted));

function causesNeverFound({ symptoms, checks, causes }: FaultGuide): Found[] {
  return symptoms.flatMap(({ id, says, causes: behind, on }) =>
    behind.flatMap(({ cause }) => {
      const known = causes.find((one) => one.id === cause);
      const found = checks.some(
        (check) =>
          together(check.on, known?.on) &&
          together(check.on, on) &&
          check.finds.some((one) => one.cause === cause && one.share > 0),
      );
      return found || !known
        ? []
        : [{ at: `symptoms.${id}`, message: `No check finds "${known.name}" when the operator says "${says}".` }];
    }),
  );
}

function causesBehindNothing({ symptoms, causes }: FaultGuide): Found[] {
  const behind = new Set(symptoms.flatMap((one) => one.causes.map(({ cause }) => cause)));
  return causes.flatMap(({ id, name }) =>
    behind.has(id) ? [] : [{ at: `causes.${id}`, message: `"${name}" is behind no symptom.` }],
  );
}

function idleChecks({ symptoms, checks }: FaultGuide): Found[] {
  const behind = new Set(symptoms.flatMap((one) => one.causes.map(({ cause }) => cause)));
  return checks.flatMap(({ id, title, finds }) =>
    finds.some(({ cause, share }) => behind.has(cause) && share > 0)
      ? []
      : [{ at: `checks.${id}`, message: `"${title}" finds no cause of any symptom.` }],
  );
}

function withoutWayOut({ causes }: FaultGuide): Found[] {
  return causes.flatMap(({ id, name, who, remedy = [], handOff }) => {
    const at = `causes.${id}`;
    if (remedy.length === 0 && !handOff)
      return [{ at, message: `"${name}" has neither a remedy nor somebody it is handed to.` }];
    return (who === "authorised" || who === "licensed") && !handOff
      ? [{ at, message: `"${name}" is ${who} work: say to whom it is handed.` }]
      : [];
  });
}

const WITH_POWER = /\b(switch(?:ed)? on|powered|turn it on|while it runs|running|start it|plug(?:ged)? in)\b/i;

function powerUnderLock({ checks, causes, states }: FaultGuide): Found[] {
  const rules = new StateRules(states);
  const locked = new Set(
    states.flatMap(({ id, in: into }) =>
      (into.gates ?? []).some((gate) => gate === "lock-out" || gate === "isolate") ? [id] : [],
    ),
  );
  const wrong = (at: string, title: string, text: string, needs: readonly string[] = []): Found[] => {
    const clash = needs.find((one) => needs.some((other) => rules.exclude(one, other)));
    if (clash !== undefined) return [{ at, message: `"${title}" needs states that exclude each other.` }];
    return needs.some((one) => locked.has(one)) && WITH_POWER.test(text)
      ? [{ at, message: `"${title}" is done locked out, and its text speaks of power: part them.` }]
      : [];
  };
  return [
    ...checks.flatMap(({ id, title, how, state }) => wrong(`checks.${id}`, title, `${title} ${how}`, state)),
    ...causes.flatMap(({ id, remedy = [] }) =>
      remedy.flatMap((step) => wrong(`causes.${id}`, step.title, `${step.title} ${step.text ?? ""}`, step.state)),
    ),
  ];
}

const LICENSED = /\b(refrigerant|mains wiring|circuit boards?|high voltage|gas line|generator)\b/i;

function licensedWork({ causes }: FaultGuide): Found[] {
  return causes.flatMap(({ id, who, remedy = [] }) => {
    if (who === "authorised" || who === "licensed") return [];
    const step = remedy.find((one) => LICENSED.test(`${one.title} ${one.text ?? ""}`));
    const word = step && must(LICENSED.exec(`${step.title} ${step.text ?? ""}`))[0];
    return step ? [{ at: `causes.${id}`, message: `"${step.title}" speaks of ${word}: hand that over.` }] : [];
  });
}

function lessonsMissing({ causes }: FaultGuide): Found[] {
  return causes.flatMap(({ id, name, handling }) =>
    handling && handling.lesson.trim() === ""
      ? [{ at: `causes.${id}`, message: `"${name}" comes of handling: say what the operator should know.` }]
      : [],
  );
}
