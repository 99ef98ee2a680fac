import { signaturePath } from "./signature-path";

const numbers = (path: string): number[] => (path.match(/[\d.]+/g) ?? []).map(Number);

describe("a signature's path", () => {
  it("is nothing when nothing was drawn", () => {
    expect(signaturePath([])).toBe("");
    expect(signaturePath([[]])).toBe("");
  });

  it("fits a tall drawing of a phone into the field, in its proportions", () => {
    const [x1, y1, x2, y2] = numbers(
      signaturePath([
        [
          { x: 50, y: 100 },
          { x: 250, y: 600 },
        ],
      ]),
    ) as [number, number, number, number];
    expect([y1, y2]).toEqual([8, 172]);
    expect((x2 - x1) / (y2 - y1)).toBeCloseTo(200 / 500, 2);
    expect((x1 + x2) / 2).toBeCloseTo(280, 0);
  });

  it("makes a small one a little larger, and keeps a dot a dot", () => {
    const [x1 = 0, , x2 = 0] = numbers(
      signaturePath([
        [
          { x: 0, y: 0 },
          { x: 100, y: 10 },
        ],
      ]),
    );
    expect(x2 - x1).toBeCloseTo(120, 0);
    expect(signaturePath([[{ x: 700, y: 900 }]])).toBe("M280 90");
  });

  it("begins every stroke anew", () => {
    const path = signaturePath([
      [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
      ],
      [
        { x: 0, y: 10 },
        { x: 10, y: 10 },
      ],
    ]);
    expect(path.match(/M/g)).toHaveLength(2);
    expect(path).toMatch(/^[ML0-9 .]+$/);
  });
});
