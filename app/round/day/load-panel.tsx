import { Link } from "react-router";

import { Section } from "~/ui/section";

/** How far loading for the day has come; the list itself has a page of its own. */
export function LoadPanel({
  lines,
  ticked,
  short,
  href,
}: {
  lines: number;
  ticked: number;
  short: number;
  href: string;
}) {
  if (lines === 0) return null;
  return (
    <Section id="load" title="What to load" panel>
      <p className="mt-1">
        <span className="figure">{ticked}</span> of <span className="figure">{lines}</span> things are in the van.
        {short > 0 && (
          <>
            {" "}
            <strong>
              ! <span className="figure">{short}</span> {short === 1 ? "is" : "are"} missing.
            </strong>
          </>
        )}
      </p>
      <Link to={href} className="btn mt-2 w-full">
        Open the load list
      </Link>
    </Section>
  );
}
