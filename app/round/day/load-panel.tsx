import { Link } from "react-router";

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
    <section aria-labelledby="load" className="panel p-4">
      <h2 id="load" className="text-lg">
        What to load
      </h2>
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
    </section>
  );
}
