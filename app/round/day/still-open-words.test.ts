import { leftBehind, stillOpenWords } from "./still-open-words";

const NOTHING = { running: [], off: [], locked: false, settled: 5, total: 12 };

describe("what would be left behind", () => {
  it("names what runs, what is off and that a lock is on, before how far the sheet is", () => {
    expect(
      leftBehind({ ...NOTHING, running: ["Soak the nozzles"], off: [{ item: "spray arm", count: 2 }], locked: true }),
    ).toBe("the clock of “Soak the nozzles” runs; still off: 2 × spray arm; a lock is on; 5 of 12 steps settled");
  });

  it("is a signature, when all is worked", () => {
    expect(leftBehind({ ...NOTHING, settled: 12 })).toBe("not signed");
  });

  it("says it of each sheet", () => {
    const sheet = { ...NOTHING, sheetId: "a", title: "Weekly", machineName: "Washer" };
    expect(stillOpenWords([sheet, { ...sheet, machineName: "Oven" }])).toMatch(
      /^Before you leave: Washer, Weekly \(5 of 12 steps settled\); Oven, Weekly .* leave all the same\.$/,
    );
  });
});
