/** Parts worked on at once: while one waits for the database, another is worked out. */
const LANES = 4;

/**
 * Works through a long list part by part, some parts side by side.
 *
 * @param read the ids after one, in order; none at the end
 */
export async function inLanes(
  read: (after: string) => Promise<string[]>,
  work: (ids: string[]) => Promise<void>,
): Promise<void> {
  let after = "";
  let reading: Promise<string[]> = Promise.resolve([]);
  /** The next part, one lane after the other. */
  const next = (): Promise<string[]> => {
    reading = reading.then(async () => {
      const ids = await read(after);
      after = ids.at(-1) ?? after;
      return ids;
    });
    return reading;
  };
  const lane = async (): Promise<void> => {
    for (let ids = await next(); ids.length > 0; ids = await next()) await work(ids);
  };
  await Promise.all(Array.from({ length: LANES }, lane));
}
