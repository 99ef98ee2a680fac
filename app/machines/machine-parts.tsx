import { hardnessClass } from "@core";
import { Link } from "react-router";

import { outcomeName } from "~/kit/outcomes";
import { useIsLead } from "~/people/use-me";
import { Day, OnDay, useDayWords } from "~/ui/day";
import { FactList } from "~/ui/fact-list";
import { Notice } from "~/ui/notice";
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

/** It is none of the register's any more; what was done on it stays here to read. */
export function TakenOut({ machine }: { machine: Pick<Data["machine"], "id" | "retiredOn" | "retired"> }) {
  const lead = useIsLead();
  return (
    <Notice title="Taken out of the register">
      <p>
        <OnDay on={machine.retiredOn} />: {machine.retired?.why}. Nothing is owed on it any more; its records stay.
      </p>
      {lead && (
        <p className="mt-2">
          <Link to={`/machines/${machine.id}/take-out`} className="btn">
            Take it back
          </Link>
        </p>
      )}
    </Notice>
  );
}

/** What the register says of the machine and of where it stands. */
export function Facts({ machine, site }: Pick<Data, "machine" | "site">) {
  const say = useDayWords();
  const facts: [name: string, value: string | null, figure?: boolean][] = [
    ["Maker", machine.maker],
    ["Model", machine.model, true],
    ["Serial", machine.serial, true],
    ["Stands", machine.position],
    ["Commissioned", machine.commissionedOn && say(machine.commissionedOn)],
    ["Options", machine.options.join(", ")],
    ["Access", site.accessHours],
    ["Address", site.address],
    [
      "Water",
      site.waterHardness === null ? null : `${site.waterHardness} mg/L as CaCO₃, ${hardnessClass(site.waterHardness)}`,
    ],
    ["Notes", machine.notes],
  ];
  return <FactList facts={facts} />;
}
