import { type Call, faultsOf } from "../testing/bad-values";
import * as wear from "./index";

const worn = [
  { at: 0, value: 4, weight: 1 },
  { at: 3, value: 3.4, weight: 0.5 },
  { at: 6, value: 3.1, weight: 1 },
  { at: 8, value: 2.6, weight: 1 },
];

const CALLS: [name: string, call: Call, args: unknown[]][] = [
  ["fitWear", wear.fitWear, [{ points: worn, limit: 2, level: 0.9, worse: "down" }]],
  ["predictWear", wear.predictWear, [wear.fitWear({ points: worn, limit: 2 }), 9, 0.9]],
  ["chanceBeyond", wear.chanceBeyond, [wear.fitWear({ points: worn, limit: 2 }), 2, 9]],
  [
    "poolSlopes",
    wear.poolSlopes,
    [
      [
        { id: "a", slope: 1, slopeSe: 0.2 },
        { id: "b", slope: 2, slopeSe: 0.1 },
        { id: "c", slope: 0, slopeSe: null },
      ],
    ],
  ],
  [
    "nowOrNext",
    wear.nowOrNext,
    [{ chanceBeforeNext: 0.5, plannedCost: 10, failureCost: 50, extraVisitCost: 5, lostUseCost: 2 }],
  ],
  ["fitWeibull", wear.fitWeibull, [{ failures: [3, 5, 9], suspensions: [10, 12] }]],
  ["replacementAge", wear.replacementAge, [{ shape: 2, scale: 100, plannedCost: 1, failureCost: 5 }]],
  ["tuneInterval", wear.tuneInterval, [{ interval: 10, asFound: ["clean", "poor"], min: 5, max: 30 }]],
  [
    "tuneRules",
    wear.tuneRules,
    [
      { triggers: [{ kind: "calendar", every: 3, unit: "month", basis: "completion" }] },
      ["poor"],
      {
        least: 0.5,
        most: 2,
        given: { triggers: [{ kind: "calendar", every: 3, unit: "month", basis: "completion" }] },
      },
    ],
  ],
  [
    "daysBetweenServices",
    wear.daysBetweenServices,
    [{ triggers: [{ kind: "calendar", every: 3, unit: "month", basis: "completion" }], intervalFactor: 2 }, {}],
  ],
  ["servicesAYear", wear.servicesAYear, [90]],
  ["addedMinutesAYear", wear.addedMinutesAYear, [60, 90, 68]],
  ["poorChance", wear.poorChance, [[{ days: 90, poor: true }], 80, 2]],
  ["agreement", wear.agreement, [[1, 2, 3, 4, 5].map((n) => ({ cause: n, effect: n * n }))]],
];

it.each(CALLS)("%s", (_name, call, args) => {
  expect(faultsOf(call, args)).toEqual([]);
  expect(call(...(args as never[]))).toBeDefined();
});
