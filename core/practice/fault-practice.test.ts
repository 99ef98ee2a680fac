import { smallGuide } from "../faults/testing/small-guide";
import { byTheGuide } from "./best-way";
import { drawFault, type HiddenFault } from "./draw-fault";
import { FaultPractice, type PracticeAct } from "./fault-practice";
import { judgeFault } from "./judge-fault";
import { SimulatedMachine } from "./simulated-machine";

const guide = smallGuide();
const seal: HiddenFault = { symptom: "weak", cause: "seal", options: [], shownBy: ["open"] };
const dirt: HiddenFault = { symptom: "weak", cause: "dirt", options: [], shownBy: ["listen", "open"] };
const COOL: PracticeAct[] = [
  { act: "begin", state: "cool" },
  { act: "wait", minutes: 20 },
  { act: "enter", state: "cool" },
];
const done = (acts: PracticeAct[], fault = dirt) => new FaultPractice(guide, fault, [...acts, { act: "done" }]);

describe("a machine that does not exist", () => {
  it("cools by Newton's law: half of what is above the room in the family's minutes, a quarter in twice them", () => {
    const machine = new SimulatedMachine(guide.states, { warmC: 102, halvesInMinutes: 10 });
    expect(machine.surfaceC).toBe(102);
    machine.pass(10);
    expect(machine.surfaceC).toBeCloseTo(22 + 40, 9);
    machine.pass(10);
    expect(machine.surfaceC).toBeCloseTo(22 + 20, 9);
    // In two halves as in one piece.
    machine.pass(0.5);
    machine.pass(9.5);
    expect(machine.surfaceC).toBeCloseTo(22 + 10, 9);
  });

  it("is reached by touch or by the clock, whichever comes first", () => {
    const states = [{ id: "cool", name: "Cool", in: { checks: [], waitMinutes: 60, belowC: 42 } }];
    const machine = new SimulatedMachine(states, { warmC: 102, halvesInMinutes: 10 });
    machine.begin("cool");
    expect(machine.isReached("cool")).toBe(false);
    // From 80 above the room to 20: two halvings.
    expect(machine.minutesUntil("cool")).toBeCloseTo(20, 4);
    machine.pass(machine.minutesUntil("cool"));
    expect(machine.isReached("cool")).toBe(true);
    const slow = new SimulatedMachine(states, { warmC: 102, halvesInMinutes: 100 });
    slow.begin("cool");
    expect(slow.minutesUntil("cool")).toBe(60);
  });

  it("warms up where a state ends one in which it is cool", () => {
    const states = [
      { id: "cool", name: "Cool", lostBy: ["powered"], in: { checks: [], belowC: 42 } },
      { id: "powered", name: "Powered", in: { checks: [] } },
    ];
    const machine = new SimulatedMachine(states, { warmC: 102, halvesInMinutes: 10 });
    machine.pass(600);
    machine.enter("cool");
    machine.enter("powered");
    expect([...machine.inside]).toEqual(["powered"]);
    machine.pass(600);
    expect(machine.surfaceC).toBeCloseTo(102, 3);
    expect(machine.minutesUntil("cool")).toBe(0);
    expect(machine.isReached("cool")).toBe(false);
  });
});

describe("a fault practised", () => {
  it("takes the minutes of its checks, gates, waits and remedy", () => {
    const found = done([
      // 1 into "running", 2 to listen; out of it by the lock: 2; 20 to cool; 5 to open: 30.
      { act: "enter", state: "running" },
      { act: "check", check: "listen" },
      { act: "enter", state: "locked" },
      ...COOL,
      { act: "check", check: "open" },
      // 5 to clean, 3 to prove, 1 out of the lock.
      { act: "remedy", cause: "dirt" },
      { act: "leave", state: "locked" },
      { act: "prove" },
    ]);
    expect(found).toMatchObject({ minutes: 39, isSolved: true, isProven: true, unsafe: [], forgotten: [] });
    expect(found.lines.filter((one) => one.kind === "saw").map((one) => one.text)).toEqual([
      "Listen: Uneven",
      "Open it: Dirty",
      "Proof: Strong again",
    ]);
  });

  it("says what was unsafe: opened without its lock, warm; a gate before its time; power under lock", () => {
    expect(done([{ act: "check", check: "open" }]).unsafe).toEqual(["“Open it” without: “Locked out”, “Cool”."]);
    const early = [
      { act: "begin", state: "cool" },
      { act: "wait", minutes: 19.5 },
      { act: "enter", state: "cool" },
    ] as const;
    expect(done([...early]).unsafe).toEqual(["Said to be “Cool” before it was."]);
    expect(done([{ act: "enter", state: "cool" }]).unsafe).toEqual(["Said to be “Cool” before it was."]);
    expect(
      done([
        { act: "enter", state: "locked" },
        { act: "enter", state: "running" },
      ]).unsafe,
    ).toEqual(["“Running” while “Locked out” was not ended: Tools out."]);
  });

  it("a check that only shows nothing without its state harms nobody", () => {
    const still = done([{ act: "check", check: "listen" }]);
    expect(still.unsafe).toEqual([]);
    expect(still.checked).toEqual([]);
    expect(still.lines[0]).toMatchObject({ kind: "saw", text: "Listen: shows nothing unless it is “Running”" });
  });

  it("what is not the cause cures nothing, and costs its minutes", () => {
    const wrong = done([{ act: "remedy", cause: "dirt" }, { act: "prove" }], seal);
    expect(wrong).toMatchObject({ isSolved: false, isCured: false, isProven: false });
    expect(wrong.lines.map((one) => one.text)).toContain("It is as before: It is weak");
    expect(wrong.forgotten).toContain("Left without handing it over.");
  });

  it("says what was forgotten", () => {
    const { forgotten, isSolved } = done([
      { act: "enter", state: "locked" },
      { act: "remedy", cause: "dirt" },
    ]);
    expect(isSolved).toBe(true);
    expect(forgotten).toEqual(["The proof: Strong again.", "“Locked out” was not ended: Tools out."]);
  });

  it("a fault that is handed on: out of service, the lesson, and no hands on it", () => {
    const licensed = smallGuide();
    licensed.causes[1] = {
      id: "seal",
      name: "Seal torn",
      who: "licensed",
      handOff: { to: "Licensed refrigeration", say: "The seal" },
      outOfService: "It leaks.",
      interim: { text: "Use the other one", until: "it is repaired" },
      handling: { damage: "Levered off", lesson: "No knives at the seal." },
    };
    const at = (acts: PracticeAct[]) => new FaultPractice(licensed, seal, [...acts, { act: "done" }]);
    expect(at([{ act: "remedy", cause: "seal" }])).toMatchObject({
      isSolved: false,
      unsafe: [
        "“Seal torn” is not yours to remedy: Licensed refrigeration.",
        "Left in use with “Seal torn”: It leaks.",
      ],
    });
    expect(at([{ act: "hand-over", cause: "seal" }, { act: "stop" }, { act: "tell" }])).toMatchObject({
      isSolved: true,
      unsafe: [],
      forgotten: [],
    });
    expect(at([{ act: "hand-over", cause: "dirt" }, { act: "stop" }, { act: "tell" }]).isSolved).toBe(false);
  });

  it("refuses what the guide does not have, and anything after the end", () => {
    expect(() => done([{ act: "check", check: "sniff" }])).toThrow("The guide has no check of this name.");
    expect(() => done([{ act: "enter", state: "asleep" }])).toThrow("no state “asleep”");
    expect(() => done([{ act: "wait", minutes: -5 }])).toThrow("Wait between");
    expect(() => done([{ act: "done" }])).toThrow("This practice is over.");
  });

  it("is passed when it is solved, safe, whole and in at most twice the guide's minutes", () => {
    const { acts, practice } = byTheGuide(guide, dirt);
    const before = acts.slice(0, -1);
    expect(judgeFault(guide, dirt, acts)).toMatchObject({ isPassed: true, minutes: practice.minutes });
    const slow = (minutes: number): PracticeAct[] => [{ act: "wait", minutes }, ...before, { act: "done" }];
    expect(judgeFault(guide, dirt, slow(practice.minutes)).isPassed).toBe(true);
    expect(judgeFault(guide, dirt, slow(practice.minutes + 1)).isPassed).toBe(false);
    expect(judgeFault(guide, dirt, [{ act: "check", check: "open" }, ...acts]).isPassed).toBe(false);
  });

  it("the same seed is the same machine; seeds differ, and follow the guide's chances", () => {
    expect(drawFault(guide, 7)).toEqual(drawFault(guide, 7));
    const causes = Array.from({ length: 2000 }, (_, seed) => drawFault(guide, seed).cause);
    const share = causes.filter((one) => one === "dirt").length / causes.length;
    // Three in four, give or take four standard deviations of 2,000 draws.
    expect(Math.abs(share - 0.75)).toBeLessThan(0.04);
    const heard = Array.from({ length: 2000 }, (_, seed) => drawFault(guide, seed, { cause: "dirt" }).shownBy);
    expect(heard.every((one) => one.includes("open"))).toBe(true);
    expect(Math.abs(heard.filter((one) => one.includes("listen")).length / 2000 - 0.8)).toBeLessThan(0.04);
    expect(() => drawFault(guide, 1, { cause: "rust" })).toThrow("no such fault");
  });
});
