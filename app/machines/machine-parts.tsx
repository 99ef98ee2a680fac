import { Link } from "react-router";

import { outcomeName } from "~/kit/outcomes";
import { Day } from "~/ui/day";
import { Section } from "~/ui/section";

import type { Route } from "./+types/machine.route";

type Data = Route.ComponentProps["loaderData"];

export function LatestSheets({ sheets }: { sheets: Data["sheets"] }) {
  return (
    <Section id="sheets" title="Latest sheets">
      {sheets.length === 0 ? (
        <p className="panel p-4">None yet. Open one from a duty above.</p>
      ) : (
        <ul className="panel divide-y divide-line">
          {sheets.map((sheet) => (
            <li key={sheet.id} className="flex flex-wrap justify-between gap-2 px-3 py-2">
              <Link to={sheet.status === "open" ? `/sheet/${sheet.id}` : `/book/records/${sheet.id}`}>
                {sheet.title}
              </Link>
              <span className="text-sm">
                {sheet.status === "open"
                  ? "open"
                  : sheet.status === "signed"
                    ? "signed"
                    : outcomeName(sheet.outcome ?? "").toLowerCase()}{" "}
                <Day at={sheet.closedAt ?? sheet.openedAt} />
              </span>
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}

export function Documents({ machine }: { machine: Data["machine"] }) {
  if (machine.documents.length === 0) return null;
  return (
    <Section id="documents" title="Documents" panel>
      <ul>
        {machine.documents.map((one) => (
          <li key={one.href} className="wrap-anywhere">
            <a href={one.href} target="_blank" rel="noreferrer" className="inline-block min-h-8">
              {one.title}
            </a>
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** The machine's tag, to be printed. */
export function Tag({ machine, site }: { machine: Data["machine"]; site: Data["site"] }) {
  return (
    <Section id="tag" title="Tag" panel>
      <img
        src={`/machines/${machine.id}/tag.svg`}
        alt={`QR code of ${machine.tag}`}
        width={132}
        height={132}
        className="bg-white"
      />
      <p className="text-sm">
        <a href={`/machines/${machine.id}/tag.png`} download={`${machine.tag}.png`} className="inline-block min-h-8">
          PNG
        </a>{" "}
        ·{" "}
        <a href={`/tags.pdf?site=${site.id}`} className="inline-block min-h-8">
          A4 sheet of this site
        </a>
      </p>
    </Section>
  );
}
