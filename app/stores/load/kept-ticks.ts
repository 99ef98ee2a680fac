const KEY = "load-ticks";

/** Ticks that wait in the browser, by whose list of which day. What cannot be read is none. */
function all(): Record<string, Record<string, boolean>> {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEY) ?? "{}");
    return typeof found === "object" && found !== null ? (found as Record<string, Record<string, boolean>>) : {};
  } catch {
    return {};
  }
}

export const keptTicks = (place: string): Record<string, boolean> => ({ ...all()[place] });

export function keepTicks(place: string, ticks: Record<string, boolean>): void {
  const { [place]: _before, ...rest } = all();
  try {
    localStorage.setItem(KEY, JSON.stringify(Object.keys(ticks).length > 0 ? { ...rest, [place]: ticks } : rest));
  } catch {
    // A browser that keeps nothing: what is ticked is sent while there is a connection.
  }
}
