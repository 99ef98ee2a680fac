import type { Procedure } from "@core";

import { pieces, piecesOf } from "./pieces";

const PROCEDURE = {
  parts: [
    { item: "blade", name: "Blade", uses: 4, slots: [{ id: "left" }, { id: "right" }] },
    { item: "filter", name: "Filter", slots: [{ id: "top" }] },
  ],
} as unknown as Procedure;

describe("pieces to take along", () => {
  it("are whole ones: four edges are one blade", () => {
    expect(pieces(PROCEDURE, { item: "blade", qty: 1 })).toBe(1);
    expect(pieces(PROCEDURE, { item: "blade", qty: 4 })).toBe(1);
    expect(pieces(PROCEDURE, { item: "blade", qty: 5 })).toBe(2);
    expect(pieces(PROCEDURE, { item: "filter", qty: 3 })).toBe(3);
    expect(pieces(PROCEDURE, { item: "grease", qty: 2.5 })).toBe(2.5);
  });

  it("are none for a piece that still has an edge to turn to", () => {
    const need = { item: "blade", qty: 2 };
    expect(piecesOf(PROCEDURE, need, {})).toBe(1);
    expect(piecesOf(PROCEDURE, need, { left: { item: "blade", usesLeft: 3 } })).toBe(0);
    expect(
      piecesOf(PROCEDURE, need, { left: { item: "blade", usesLeft: 2 }, right: { item: "blade", usesLeft: 1 } }),
    ).toBe(1);
  });

  it("do not count on what another item in the slot has left", () => {
    const other = { left: { item: "old-blade", usesLeft: 4 }, right: { item: "old-blade", usesLeft: 4 } };
    expect(piecesOf(PROCEDURE, { item: "blade", qty: 2 }, other)).toBe(1);
    expect(piecesOf(PROCEDURE, { item: "blade", qty: 2 }, { left: { item: "blade", usesLeft: 0 } })).toBe(1);
  });

  it("are as many as asked for where a piece has one use, or is no part", () => {
    expect(piecesOf(PROCEDURE, { item: "filter", qty: 2 }, { top: { item: "filter", usesLeft: 1 } })).toBe(2);
    expect(piecesOf(PROCEDURE, { item: "grease", qty: 3 }, {})).toBe(3);
  });
});
