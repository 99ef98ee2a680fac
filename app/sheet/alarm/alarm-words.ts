/** What a device does when a clock has run its time, as far as a page can find out. */
export interface AlarmAbilities {
  /** `touch`: it has a sound, but gives none to a page before it was touched. */
  sound: "yes" | "touch" | "no";
  vibration: boolean;
  /** `ask`: it asks the person when the first clock starts. */
  notification: "yes" | "ask" | "no";
  /** The screen can be kept on while a clock runs. */
  screen: boolean;
}

/** What happens when time is up, and what does not and has to be made up for by looking. */
export function alarmWords({ sound, vibration, notification, screen }: AlarmAbilities): { does: string; not: string } {
  const does = [
    sound === "no" ? "" : "sounds",
    vibration ? "vibrates" : "",
    screen ? "keeps its screen on" : "",
    notification === "yes" ? "notifies you when another page is in front" : "",
  ].filter((word) => word !== "");
  const not = [
    sound === "touch" ? "It sounds only once this page has been touched." : "",
    sound === "no" ? "It has no sound." : "",
    notification === "ask" ? "It will ask whether it may notify you." : "",
    notification === "no" ? "It does not notify you when another page is in front: keep this one open." : "",
    screen ? "" : "It cannot keep its screen on: look at it in time.",
  ].filter((sentence) => sentence !== "");
  return {
    does: does.length === 0 ? "This device gives no alarm." : `When time is up this device ${listed(does)}.`,
    not: not.join(" "),
  };
}

const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;
