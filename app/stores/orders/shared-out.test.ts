import type { OrderLine } from "./orders.server";
import { sharedOut } from "./shared-out";

const line = (id: string, orderCode: string, packs: number): OrderLine => ({ id, orderCode, packs }) as OrderLine;

describe("what a supplier promises", () => {
  it("is shared over the lines of a code, the first ones first", () => {
    const lines = [line("1", "A", 2), line("2", "B", 1), line("3", "A", 3)];
    expect(sharedOut(lines, { A: 4, B: 1 })).toEqual({ 1: 2, 2: 1, 3: 2 });
  });

  it("is never more than a line asks for, nor promised twice", () => {
    const lines = [line("1", "A", 2), line("2", "A", 2)];
    expect(sharedOut(lines, { A: 9 })).toEqual({ 1: 2, 2: 2 });
    expect(sharedOut(lines, { A: 1 })).toEqual({ 1: 1, 2: 0 });
  });

  it("is nothing for a code that was not answered, and leaves the answer as it was", () => {
    const promised = { B: 3 };
    expect(sharedOut([line("1", "A", 2), line("2", "B", 2)], promised)).toEqual({ 1: 0, 2: 2 });
    expect(promised).toEqual({ B: 3 });
  });
});
