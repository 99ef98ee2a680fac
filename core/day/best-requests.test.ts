import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { bruteForce } from "../visit/testing/brute-force";
import type { Phase } from "../visit/types";
import { type AskedJob, type AskedVisit, bestRequests } from "./best-requests";
import type { DayJob } from "./types";

const hands = (minutes: number): Phase => ({ kind: "hands", minutes });
const wait = (minutes: number): Phase => ({ kind: "wait", minutes });

/** A visit of two to four machines: hot ones, ones that have to be emptied, ones that are in use for a while. */
function drawnVisit(seed: number): AskedVisit {
  const random = uniform(xoroshiro128plus(seed * 17 + 3));
  const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
  const requests: string[] = [];
  const variants: AskedJob[] = [];
  const jobs = Array.from({ length: whole(2, seed % 10 === 0 ? 4 : 3) }, (_, i): DayJob => {
    const id = `m${i}`;
    const last = hands(whole(1, 2));
    switch (whole(0, 3)) {
      case 0: {
        requests.push(`${id} cool`);
        variants.push({ asked: [`${id} cool`], job: { id, phases: [wait(0), last] } });
        return { id, phases: [wait(whole(1, 5)), last] };
      }
      case 1: {
        const [before, soak] = [hands(whole(1, 2)), wait(whole(0, 3))];
        requests.push(`${id} empty`);
        variants.push({ asked: [`${id} empty`], job: { id, phases: [hands(0), soak, last] } });
        return { id, phases: [before, soak, last] };
      }
      case 2: {
        const from = whole(1, 5);
        requests.push(`${id} free`);
        variants.push({ asked: [`${id} free`], job: { id, phases: [last] } });
        return { id, phases: [last], windows: [[from, 30]] };
      }
      default:
        return { id, phases: [last] };
    }
  });
  return {
    site: { id: "s", arriving: 0, leaving: 0, resources: [], jobs },
    technicians: 1,
    begin: 0,
    requests,
    variants,
  };
}

/** Length of the visit by trying every minute for everything; shares nothing with the search that packs. */
function trier({ site, variants, technicians }: AskedVisit): (asked: readonly string[]) => number {
  const known = new Map<string, number>();
  return (asked) => {
    const jobs = site.jobs.map(
      (job) => variants.find((one) => one.job.id === job.id && one.asked.every((id) => asked.includes(id)))?.job ?? job,
    );
    const key = JSON.stringify(jobs);
    // One after the other, when each is free, is over by then.
    const latest = jobs.reduce(
      (end, { phases, windows }) =>
        phases.reduce((time, phase) => time + phase.minutes, Math.max(end, windows?.[0]?.[0] ?? 0)),
      0,
    );
    const length = known.get(key) ?? must(bruteForce({ technicians, jobs }, latest));
    known.set(key, length);
    return length;
  };
}

const subsets = (ids: readonly string[]): string[][] =>
  ids.reduce<string[][]>((all, id) => [...all, ...all.map((one) => [...one, id])], [[]]);

it("finds the three requests that save most, as trying every choice at every minute does", () => {
  let helped = 0;
  for (let seed = 0; seed < draws(100, 400); seed++) {
    const visit = drawnVisit(seed);
    const tried = trier(visit);
    const none = tried([]);
    const worth = (asked: readonly string[]): number => none - tried(asked) - asked.length;
    const best = Math.max(
      ...subsets(visit.requests)
        .filter((asked) => asked.length <= 3)
        .map(worth),
    );
    const found = bestRequests(visit, { least: 1 });
    const ids = found.asked.map((one) => one.id);
    expect({ seed, length: found.length, saved: found.saved, proven: found.proven }).toEqual({
      seed,
      length: none,
      saved: none - tried(ids),
      proven: true,
    });
    expect({ seed, worth: worth(ids) }).toEqual({ seed, worth: best });
    for (const { id, alone } of [...found.asked, ...found.others])
      expect({ seed, id, alone }).toEqual({ seed, id, alone: none - tried([id]) });
    if (found.asked.length > 0) helped++;
  }
  expect(helped).toBeGreaterThan(draws(100, 400) / 4);
}, 300_000);

const oven: AskedVisit = {
  site: {
    id: "s",
    arriving: 5,
    leaving: 5,
    resources: [],
    jobs: [
      { id: "oven", phases: [hands(2), wait(60), hands(30)] },
      { id: "other", phases: [hands(15)] },
    ],
  },
  technicians: 1,
  begin: 480,
  requests: ["oven cool"],
  variants: [{ asked: ["oven cool"], job: { id: "oven", phases: [hands(2), wait(0), hands(30)] } }],
};

it("counts what other work fills of a wait as no saving", () => {
  // 2 + 60 + 30 with the other work inside the wait; without the wait 2 + 30 + 15.
  expect(bestRequests(oven)).toEqual({
    length: 92,
    asked: [{ id: "oven cool", alone: 45 }],
    saved: 45,
    others: [],
    proven: true,
  });
});

it("asks for nothing that saves too little, and names it all the same", () => {
  expect(bestRequests(oven, { least: 45 })).toMatchObject({
    asked: [],
    saved: 0,
    others: [{ id: "oven cool", alone: 45 }],
  });
});

it("counts minutes past closing as part of a visit that cannot be in time", () => {
  const short = { ...oven, site: { ...oven.site, access: [[420, 540]] as [number, number][] } };
  expect(bestRequests(short)).toMatchObject({ length: 92 + 32, saved: 92 + 32 - 47, proven: false });
});

it("refuses what is no list", () => {
  expect(() => bestRequests({ ...oven, requests: null as never })).toThrow(/requests/);
  expect(() => bestRequests(null as never)).toThrow(/visit/);
});
