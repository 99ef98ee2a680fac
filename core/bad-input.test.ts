/**
 * Whatever is put in the place of whatever: an answer, or a CoreError that names where. Never another kind of error, never an
 * answer with a number that is none.
 */
import * as core from "./index";
import { base2 } from "./sheet/testing/lint-cases-2";
import { sample } from "./sheet/testing/sample";
import { type Call, faultsOf } from "./testing/bad-values";

const TODAY = "2026-07-01";
const due = {
  plan: {
    id: "p",
    startOn: "2026-01-01",
    triggers: [
      { kind: "calendar", every: 2, unit: "week", basis: "grid", weekday: 3, first: { every: 1, unit: "month" } },
      { kind: "meter", meter: "h", every: 100, first: 50, basis: "completion" },
      { kind: "event", event: "e" },
      { kind: "condition", reading: "t", above: 5 },
    ],
    notice: { days: 7, fraction: 0.25 },
    warning: { days: 2 },
    intervalFactor: 0.7,
    hardStop: true,
  },
  completions: [{ planId: "p", on: "2026-02-01", meters: { h: 100 } }],
  meters: {
    h: [
      { on: "2026-01-05", value: 10, at: "2026-01-05T10:00:00Z" },
      { on: "2026-05-05", value: 300 },
    ],
  },
  readings: { t: [{ on: "2026-03-01", value: 6 }] },
  events: [{ event: "e", on: "2026-04-01" }],
  forecasts: { t: { on: "2026-08-01", low: "2026-07-10", high: "2026-09-01" } },
  today: TODAY,
};
const monthly = { ...due.plan, triggers: [{ kind: "calendar", every: 1, unit: "month", basis: "completion" }] };
const closed = { closedWeekdays: [7], closed: [{ from: TODAY, to: TODAY }] };
const visit = {
  technicians: 2,
  resources: [{ id: "sink", capacity: 1 }],
  technicianHours: [[[0, 90]], [[0, 90]]],
  jobs: [
    {
      id: "a",
      release: 0,
      deadline: 90,
      windows: [[0, 90]],
      phases: [
        { kind: "hands", minutes: 5, uses: ["sink"] },
        { kind: "wait", minutes: 5, maxMinutes: 9 },
        { kind: "hands", minutes: 3 },
      ],
    },
    {
      id: "b",
      after: [{ job: "a", index: 0 }],
      phases: [{ kind: "hands", minutes: 4, after: [{ job: "a", index: 1 }] }],
    },
  ],
  fixed: [{ job: "a", index: 0, start: 0, technician: 0 }],
};
const day = {
  startAt: 480,
  endBy: 900,
  technicians: 1,
  sites: ["x", "y"].map((id) => ({
    id,
    access: [[480, 800]],
    arriving: 5,
    leaving: 5,
    resources: [{ id: "sink", capacity: 1 }],
    jobs: [
      {
        id: `${id} 1`,
        phases: [{ kind: "hands", minutes: 10 }],
        windows: [[480, 800]],
        readyBy: 800,
        value: 5,
        bench: [{ path: "p", after: [{ job: "", index: 0 }], phases: [{ kind: "hands", minutes: 2 }] }],
      },
    ],
  })),
  travel: [
    [0, 5, 6],
    [5, 0, 7],
    [6, 7, 0],
  ],
  timetables: [{ from: 0, to: 1, departures: [480, 500], minutes: 9 }],
};
const week = {
  days: 2,
  people: [{ id: "p", minutes: [300, 300], sites: null }],
  sites: [{ id: "x", overhead: 5, open: [480, 480] }],
  duties: [{ id: "d", site: "x", hands: 20, longest: 30, value: 5, due: 1, people: ["p"] }],
  travel: [
    [0, 9],
    [9, 0],
  ],
};
const few = { nodeLimit: 50, timeLimitMs: 100, seed: 1 };
const event = (n: number, body: object): object => ({
  id: `0190a000-0000-7000-8000-00000000000${n}`,
  runId: "r",
  at: `2026-07-01T08:0${n}:00Z`,
  by: "ada",
  device: "phone",
  ...body,
});

/** Every function that takes more than a word, with input that is right. */
const CALLS: [string, Call, unknown[]][] = [
  ["addDays", core.addDays, [TODAY, 2]],
  ["daysBetween", core.daysBetween, [TODAY, TODAY]],
  ["assessDue", core.assessDue, [due]],
  ["projectDue", core.projectDue, [due, "2026-12-31"]],
  ["dayHours", core.dayHours, [[{ type: "arrived", siteId: "a", minute: 500 }], 600]],
  ["startingOn", core.startingOn, [monthly, "2026-07-02"]],
  ["firstDays", core.firstDays, [[{ plan: monthly, minutes: 10 }], { load: { [TODAY]: 5 }, calendar: closed }]],
  ["dayFromCompletions", core.dayFromCompletions, [["2026-01-01", TODAY]]],
  [
    "trialScatter",
    core.trialScatter,
    [
      {
        id: "m",
        kind: "measure",
        title: "M",
        reading: "t",
        unit: "s",
        trials: 2,
        judge: "mean",
        limits: { min: 1, max: 9 },
      },
      [3, 8],
    ],
  ],
  ["usageRate", core.usageRate, [due.meters.h, TODAY, 90]],
  ["packVisit", core.packVisit, [visit, few]],
  ["checkVisit", core.checkVisit, [visit, { status: "feasible", makespan: 9, lowerBound: 0, phases: [] }]],
  [
    "orderRound",
    core.orderRound,
    [
      {
        stops: [{ id: "a", minutes: 5, windows: [[0, 50]] }],
        travel: [
          [0, 5],
          [5, 0],
        ],
        startAt: 0,
        timetables: [{ from: 0, to: 1, departures: [3], minutes: 4 }],
      },
      few,
    ],
  ],
  ["planDay", core.planDay, [day, few]],
  ["proposeDay", core.proposeDay, [day, few]],
  ["leastEnd", core.leastEnd, [day]],
  [
    "suggestChanges",
    (problem: never) => core.suggestChanges(problem, core.planDay(problem, few), few),
    [{ ...day, endBy: 500 }],
  ],
  ["assignWeek", core.assignWeek, [week, { nodeLimit: 5, timeLimitMs: 20, seed: 1 }]],
  ["levelModel", core.levelModel, [[{ id: "a", minutes: 30, week: 1, from: 0, to: 2 }], 4]],
  [
    "explodeDemand",
    core.explodeDemand,
    [{ occurrences: [{ on: TODAY, planId: "p" }], uses: { p: [{ item: "i", qty: 1, chance: 0.5 }] } }],
  ],
  [
    "runOut",
    core.runOut,
    [
      {
        item: "i",
        onHand: 3,
        lots: [{ qty: 2, expires: "2026-08-01" }],
        demand: [{ on: "2026-07-05", qty: 4 }],
        leadDays: 3,
        packSize: 2,
        today: TODAY,
      },
    ],
  ],
  ["kitCover", core.kitCover, [{ kit: { a: 4 }, perService: { a: 1 } }]],
  [
    "loadList",
    core.loadList,
    [
      {
        visits: [{ id: "v", needs: [{ item: "i", qty: 2, why: "w", reusable: false }] }],
        stockByPlace: { van: { i: 1 } },
        likely: [{ item: "k", qty: 1, why: "w", chance: 0.5 }],
      },
    ],
  ],
  ["useShare", core.useShare, [3, 10]],
  ["dilute", core.dilute, [{ stockPercent: 5, target: { ppm: 500 }, finalMl: 1000 }]],
  ["jugMl", core.jugMl, [48.78]],
  ["byParts", core.byParts, [{ parts: { a: 1, water: 3 }, finalMl: 1000 }]],
  ["additive", core.additive, [{ tankMl: 3000, additiveMl: 75 }]],
  ["toMl", core.toMl, [2, "us-gal"]],
  ["checkMix", core.checkMix, ["acid", "water"]],
  ["ewmaChart", core.ewmaChart, [{ values: [1, 2], target: 1, sd: 1, lambda: 0.2, width: 3 }]],
  ["westgard", core.westgard, [{ values: [1, 2], mean: 1, sd: 1 }]],
  ["tighteningOrder", core.tighteningOrder, [8]],
  ["beltTime", core.beltTime, [{ setSeconds: 300, runsSeconds: [310], tolerancePercent: 5 }]],
  ["hydrometer", core.hydrometer, [{ readings: [{ sg: 1.25, tempC: 20 }] }]],
  ["strainerDrop", core.strainerDrop, [{ cleanDrop: 20, drop: 80 }]],
  ["lotScores", core.lotScores, [[{ result: 5.4, mean: 5, sd: 0.2 }]]],
  ["relativeSd", core.relativeSd, [[99, 101]]],
  ["percentOfOwn", core.percentOfOwn, [{ now: 84, own: 100 }]],
  ["bristleAdvice", core.bristleAdvice, [{ markMm: 50, lowMm: 40, highMm: 60 }]],
  ["orderChecks", core.orderChecks, [{ causes: [{ id: "a", probability: 1, minutes: 5 }] }]],
  ["learnMinutes", core.learnMinutes, [30, [{ minutes: 20, sameSite: true, samePerson: true }]]],
  ["expectedRange", core.expectedRange, [due.meters.h, TODAY]],
  ["roadMinutes", core.roadMinutes, [{ latitude: 38, longitude: -28 }, { latitude: 38.1, longitude: -28 }, 1.3, 40]],
  ["nextOpenDay", core.nextOpenDay, [{ closedWeekdays: [7], closed: [{ from: TODAY, to: TODAY }] }, TODAY]],
  [
    "idleAheadDays",
    core.idleAheadDays,
    [{ closedWeekdays: [7], closed: [{ from: TODAY, to: TODAY }] }, TODAY, "2026-07-31", 2],
  ],
  [
    "foldRun (log)",
    (events: never) => core.foldRun(sample(), events).applied,
    [
      [
        event(1, { type: "note", text: "t" }),
        event(2, { type: "undone", ref: "x" }),
        event(3, { type: "corrected", ref: "y", set: { text: "u" }, why: "" }),
      ],
    ],
  ],
  [
    "foldRun (what is off)",
    (events: never) => core.foldRun(base2(), events).ledger,
    [
      [
        event(1, {
          type: "started",
          planId: "p",
          procedureId: "q",
          procedureVersion: 1,
          begins: { states: ["isolated"], off: [{ item: "lid", count: 1, place: "bench", path: "pan" }] },
        }),
        event(2, { type: "step-done", step: "off", round: 1, off: [{ item: "pan", count: 2, wayRound: "up" }] }),
        event(3, { type: "step-done", step: "on", round: 1, back: [{ item: "pan", count: 1 }] }),
        event(4, { type: "interim", text: "t", until: "u", step: "off", round: 1 }),
        event(5, { type: "interim-ended", ref: "x" }),
      ],
    ],
  ],
  [
    "nextSteps, followUps, creditedPlans (what is off)",
    (begins: never, plans: never) => {
      const procedure = core.placeGates(base2());
      const started = event(1, { type: "started", planId: "p", procedureId: "q", procedureVersion: 1, begins });
      const state = core.foldRun(procedure, [started as never]);
      const machine = { options: [] };
      return [
        core.nextSteps(procedure, state, machine),
        core.followUps(procedure, state, machine),
        core.creditedPlans(procedure, state, machine, plans),
      ];
    },
    [
      { states: ["isolated"], off: [{ item: "lid", count: 1, place: "bench", path: "pan" }] },
      [{ id: "p", procedureId: "sample", steps: ["off"] }],
    ],
  ],
  [
    "plausible (level)",
    core.plausible,
    [
      {
        value: 5,
        unit: "bar",
        history: due.meters.h,
        on: TODAY,
        possible: [0, 10],
        kind: "level",
        step: 0.1,
      },
    ],
  ],
  ["plausible (meter)", core.plausible, [{ value: 5, unit: "h", history: due.meters.h, on: TODAY, kind: "meter" }]],
  ["readNumber", core.readNumber, ["85,000", { decimal: ",", group: "." }]],
  ["possibleOf", core.possibleOf, ["mm"]],
  ["usableAgain", core.usableAgain, [{ hours: 2, done: "q" }, "2026-07-01T08:00:00Z", ["2026-07-01T09:00:00Z"]]],
  ["amountFault", core.amountFault, [5, { usual: 4, unit: "mL" }]],
  ["sumMaterials", core.sumMaterials, [[{ item: "i", qty: 1, unit: "L", lot: "a" }]]],
  [
    "openItems",
    (sheets: never, closings: never) => core.openItems(sheets, closings),
    [
      [{ sheetId: "s", at: "2026-07-01T08:00:00Z", left: [{ key: "k", thing: "slot l" }], settles: ["slot r"] }],
      [{ item: "s k", at: "2026-07-01T09:00:00Z" }],
    ],
  ],
  [
    "nextSteps, followUps (machine)",
    (machine: never) => {
      const procedure = core.placeGates(base2());
      const state = core.foldRun(procedure, []);
      return [core.nextSteps(procedure, state, machine), core.followUps(procedure, state, machine)];
    },
    [{ options: ["a"] }],
  ],
  [
    "handsOnMinutes",
    core.handsOnMinutes,
    [[event(1, { type: "note", text: "t" }), event(2, { type: "note", text: "t" })]],
  ],
];

it.each(CALLS)("%s", (_name, call, args) => {
  expect(faultsOf(call, args)).toEqual([]);
  expect(call(...(args as never[]))).toBeDefined();
});

it.each<[string, Call]>([
  ["nextSteps", core.nextSteps],
  ["sheetSteps", core.sheetSteps],
  ["followUps", core.followUps],
  ["creditedPlans", core.creditedPlans],
])("%s without a procedure or a state", (_name, call) => {
  const machine = { options: [] };
  const state = core.foldRun(base2(), []);
  for (const bad of [null, undefined, 7, "x", []]) {
    expect(() => call(...([bad, state, machine, []] as never[]))).toThrow(core.CoreError);
    expect(() => call(...([base2(), bad, machine, []] as never[]))).toThrow(core.CoreError);
  }
});

it.each(["placeGates", "lintProcedure"] as const)("%s takes a file as it is written down, and nothing else", (name) => {
  const { hazards: _, tools: __, parts: ___, options: ____, ...rest } = base2();
  const short = { ...rest, steps: rest.steps.map(({ kind, ...step }) => (kind === "do" ? step : { kind, ...step })) };
  expect(core[name](short as never)).toEqual(core[name](base2()));
  for (const bad of [null, undefined, 7, "x", [], {}, { steps: 7 }])
    expect(() => core[name](bad as never)).toThrow(core.CoreError);
});
