import { must } from "@core";
import { renderToStaticMarkup } from "react-dom/server";

import { LeadMark, leadWords } from "./lead-mark";

const draw = (props: Partial<Parameters<typeof LeadMark>[0]>): string =>
  renderToStaticMarkup(
    <LeadMark state="later" anchorOn="2026-01-01" dueOn="2026-01-11" today="2026-01-06" {...props} />,
  );
/** Where the marker for today stands: the tip of its triangle. */
const markerAt = (markup: string): number => Number(must(/M ([\d.]+) 13 L/.exec(markup))[1]);
const POST = 62;

describe("the words", () => {
  it.each([
    ["overdue", "2026-01-10", "2026-01-11", "1 day overdue"],
    ["overdue", "2026-01-01", "2026-01-11", "10 days overdue"],
    ["stopped", "2026-01-10", "2026-01-12", "locked: 2 days past, must stand still"],
    ["due", "2026-01-11", "2026-01-11", "due today"],
    ["notice", "2026-03-01", "2026-02-28", "due in 1 day"],
    ["later", null, "2026-01-11", "no due day yet"],
  ] as const)("%s: due %s, today %s", (state, dueOn, today, words) =>
    expect(leadWords(state, dueOn, today)).toBe(words),
  );
});

describe("the drawing", () => {
  it("puts today between the knot and the post, at its share of the interval", () => {
    expect(markerAt(draw({}))).toBeCloseTo((5 + POST) / 2, 5);
    expect(markerAt(draw({ today: "2026-01-11" }))).toBe(POST);
    expect(markerAt(draw({ today: "2026-01-01" }))).toBe(5);
  });

  it("goes past the post when overdue, further the longer, and never off the drawing", () => {
    const late = ["2026-01-12", "2026-01-20", "2026-06-01", "2030-01-01"].map((today) =>
      markerAt(draw({ today, state: "overdue" })),
    );
    expect([...late].sort((a, b) => a - b)).toEqual(late);
    expect(late[0]).toBeGreaterThan(POST);
    expect(late.at(-1)).toBeLessThanOrEqual(79);
  });

  it("stays readable when the interval is nothing, or the last service came after the due day", () => {
    for (const anchorOn of ["2026-01-11", "2026-02-01", null])
      expect(markerAt(draw({ anchorOn, today: "2026-01-11" }))).toBe(POST);
  });

  it("has a padlock for a hard stop, a fork for a second rule, and says the same in words", () => {
    expect(draw({ hardStop: true })).not.toBe(draw({}));
    expect(draw({ rivals: ["2026-01-20"] })).toContain("22");
    expect(draw({})).toContain('aria-label="due in 5 days"');
  });

  it("draws a duty without a due day, without a post", () => {
    expect(draw({ dueOn: null })).toContain('aria-label="no due day yet"');
  });

  it("shows between which days a foretold one lies, around the post and never off the drawing", () => {
    const band = (foretoldFrom: string, foretoldTo: string | null) => {
      const found = /<rect x="([\d.]+)" y="10.5" width="([\d.]+)"/.exec(draw({ foretoldFrom, foretoldTo }));
      return found && [Number(found[1]), Number(found[1]) + Number(found[2])];
    };
    expect(draw({})).not.toContain('y="10.5"');
    const [from, to] = must(band("2026-01-06", "2026-01-13"));
    expect(from).toBeCloseTo((5 + POST) / 2, 5);
    expect(to).toBeGreaterThan(POST);
    expect(band("2026-01-11", "2026-01-11")).toEqual([POST - 2.5, POST + 2.5]);
    expect(band("2025-01-01", "2099-01-01")?.[0]).toBe(10);
    expect(band("2026-01-06", null)?.[1]).toBe(79);
  });
});
