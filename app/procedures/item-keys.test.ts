import { itemKey, protectionKey, toolKey } from "./item-keys";

it.each([
  ["Ice machine cleaner", "ice-machine-cleaner"],
  ["  Bürste, 20 mm (hart) ", "bu-rste-20-mm-hart"],
  ["O-ring kit", "o-ring-kit"],
  ["---", ""],
  ["食", ""],
  ["x".repeat(100), "x".repeat(80)],
])("%j is kept as %j", (name, key) => {
  expect(itemKey(name)).toBe(key);
});

it("a tool and what one wears are never taken for a part of the same word", () => {
  expect([itemKey("Torch"), toolKey("Torch"), protectionKey("Torch")]).toEqual(["torch", "tool-torch", "wear-torch"]);
  expect(toolKey("x".repeat(100))).toHaveLength(80);
  expect(protectionKey("x".repeat(100))).toHaveLength(80);
});
