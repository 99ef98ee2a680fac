import { tryAgain } from "./try-again";

const conflict = (errno: number): Error => Object.assign(new Error(`conflict ${errno}`), { parent: { errno } });

/** Fails so many times, and says what was waited. */
function failing(times: number, errno: number) {
  const waits: number[] = [];
  let [done, clock] = [0, 0];
  const work = (): Promise<number> => {
    done += 1;
    return done <= times ? Promise.reject(conflict(errno)) : Promise.resolve(done);
  };
  const wait = (ms: number): Promise<void> => {
    waits.push(ms);
    clock += ms;
    return Promise.resolve();
  };
  return { work, waits, options: { wait, random: () => 0.5, now: () => clock }, tick: (ms: number) => (clock += ms) };
}

describe("work that met another writer", () => {
  it.each([1213, 1205, 1020])("is done again after %d, waiting longer each time", async (errno) => {
    const { work, waits, options } = failing(8, errno);
    expect(await tryAgain(work, options)).toBe(9);
    expect(waits).toEqual([20, 40, 80, 160, 320, 500, 500, 500]);
  });

  it("waits a time that nobody else waits", async () => {
    const { work, waits, options } = failing(3, 1213);
    const draws = [0.1, 0.9, 0.4];
    await tryAgain(work, { ...options, random: () => draws.shift() ?? 0 });
    expect(waits.map(Math.round)).toEqual([4, 72, 64]);
  });

  it("gives up after a dozen tries, or when it took too long", async () => {
    const { work, waits, options } = failing(99, 1213);
    await expect(tryAgain(work, options)).rejects.toThrow("conflict 1213");
    expect(waits).toHaveLength(11);
    const slow = failing(99, 1205);
    const taking = (): Promise<number> => {
      slow.tick(6000);
      return slow.work();
    };
    await expect(tryAgain(taking, slow.options)).rejects.toThrow("conflict 1205");
    expect(slow.waits).toHaveLength(2);
  });

  it("is not done again after anything else", async () => {
    const { work, waits, options } = failing(1, 1062);
    await expect(tryAgain(work, options)).rejects.toThrow("conflict 1062");
    expect(waits).toEqual([]);
  });
});
