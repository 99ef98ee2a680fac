import { alarmWords } from "./alarm-words";

const ALL = { sound: "yes", vibration: true, notification: "yes", screen: true } as const;

describe("what a device does when time is up", () => {
  it("does all of it", () => {
    expect(alarmWords(ALL)).toEqual({
      does: "When time is up this device sounds, vibrates, keeps its screen on and notifies you when another page is in front.",
      not: "",
    });
  });

  it.each([
    [{ sound: "touch" }, /only once this page has been touched/],
    [{ sound: "no" }, /has no sound/],
    [{ notification: "ask" }, /will ask/],
    [{ notification: "no" }, /keep this one open/],
    [{ screen: false }, /cannot keep its screen on/],
  ] as const)("says what it does not, before one relies on it: %j", (less, words) => {
    expect(alarmWords({ ...ALL, ...less }).not).toMatch(words);
  });

  it("does not praise one that can do nothing", () => {
    const { does, not } = alarmWords({ sound: "no", vibration: false, notification: "no", screen: false });
    expect(does).toBe("This device gives no alarm.");
    expect(not.split(".")).toHaveLength(4);
  });

  it("sounds alone", () => {
    expect(alarmWords({ sound: "yes", vibration: false, notification: "no", screen: false }).does).toBe(
      "When time is up this device sounds.",
    );
  });
});
