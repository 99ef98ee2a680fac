import { keepTicks, keptTicks } from "./kept-ticks";

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.defineProperty(globalThis, "localStorage", {
    configurable: true,
    value: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
  });
});

it("keeps ticks by whose list of which day, until they are sent", () => {
  keepTicks("own 2026-11-30", { torch: true, blade: false });
  keepTicks("own 2026-12-01", { torch: true });
  expect(keptTicks("own 2026-11-30")).toEqual({ torch: true, blade: false });
  keepTicks("own 2026-11-30", {});
  expect(keptTicks("own 2026-11-30")).toEqual({});
  expect(keptTicks("own 2026-12-01")).toEqual({ torch: true });
});

it("has none where nothing can be read, and loses nothing of a page where nothing can be kept", () => {
  kept.set("load-ticks", "no JSON");
  expect(keptTicks("own 2026-11-30")).toEqual({});
  Object.defineProperty(globalThis, "localStorage", {
    configurable: true,
    value: {
      getItem: () => null,
      setItem: () => {
        throw new Error("full");
      },
    },
  });
  expect(() => keepTicks("own 2026-11-30", { torch: true })).not.toThrow();
});
