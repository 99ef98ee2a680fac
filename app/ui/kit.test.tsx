import { renderToStaticMarkup } from "react-dom/server";

import { Disclosure } from "./disclosure";
import { Empty } from "./empty";
import { FactList } from "./fact-list";
import { PageHead } from "./page-head";
import { Section } from "./section";
import { Table } from "./table";
import { titleOf } from "./title-of";

describe("the kit", () => {
  it("names a section by its heading", () => {
    const markup = renderToStaticMarkup(
      <Section id="duties" title="Duties" panel>
        <p>None.</p>
      </Section>,
    );
    expect(markup).toContain('<section aria-labelledby="duties"');
    expect(markup).toContain('<h2 id="duties"');
    expect(markup).toContain("panel");
    expect(
      renderToStaticMarkup(
        <Section id="a" title="A">
          x
        </Section>,
      ),
    ).not.toContain("panel");
  });

  it("gives a page one first heading; back, subtitle and actions only where there are any", () => {
    const bare = renderToStaticMarkup(<PageHead title="Machines" />);
    expect(bare.match(/<h1/g)).toHaveLength(1);
    expect(bare).not.toContain("<p");
    const full = renderToStaticMarkup(
      <PageHead back={<a href="/machines">Machines</a>} title="Oven" subtitle="HH-1" mark={<svg />}>
        <a href="/set-up">Set up</a>
      </PageHead>,
    );
    expect(full.indexOf("/machines")).toBeLessThan(full.indexOf("<h1"));
    expect(full.indexOf("/set-up")).toBeGreaterThan(full.indexOf("HH-1"));
  });

  it("lets a table be scrolled by key and says what it is", () => {
    const markup = renderToStaticMarkup(
      <Table caption="Lines of the ledger">
        <tbody />
      </Table>,
    );
    expect(markup).toContain('tabindex="0"');
    expect(markup).toContain('aria-label="Lines of the ledger"');
    expect(markup).toContain("<caption");
  });

  it("keeps what is folded in the document, so that its fields are sent", () => {
    const closed = renderToStaticMarkup(
      <Disclosure title="More filters">
        <input name="family" />
      </Disclosure>,
    );
    expect(closed).toContain('name="family"');
    expect(closed).toContain('aria-expanded="false"');
    expect(closed).toMatch(/<div[^>]* hidden=""/);
    const open = renderToStaticMarkup(
      <Disclosure title="More filters" open label="More filters of Ahead">
        <input name="family" />
      </Disclosure>,
    );
    expect(open).toContain('aria-expanded="true"');
    expect(open).toContain('aria-label="More filters of Ahead"');
    expect(open).not.toMatch(/<div[^>]* hidden=""/);
  });

  it("leaves out facts that are none, but not those that are 0", () => {
    const markup = renderToStaticMarkup(
      <FactList
        facts={[
          ["Serial", "S-1", true],
          ["Notes", ""],
          ["Water", null],
          ["Uses", 0],
        ]}
      />,
    );
    expect(markup.match(/<dt/g)).toHaveLength(2);
    expect(markup).toContain("figure");
    expect(markup).toContain(">0<");
  });

  it("says that nothing is there, and what to do", () => {
    expect(renderToStaticMarkup(<Empty title="No machine matches.">Try another word.</Empty>)).toContain(
      "Try another word.",
    );
    expect(renderToStaticMarkup(<Empty>None yet.</Empty>)).not.toContain("font-semibold");
  });

  it("titles a page by its data, and by the plain word where there is none", () => {
    const title = (data: { name: string }): string => data.name;
    expect(titleOf({ name: "Oven" }, title, "Machine")).toBe("Oven – Humble Hound");
    expect(titleOf(undefined, title, "Machine")).toBe("Machine – Humble Hound");
  });
});
