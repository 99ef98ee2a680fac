import { must } from "@core";
import { Form, Link } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { quantity } from "~/kit/forms/quantity";
import { Notice } from "~/ui/notice";
import { PlainField, PlainSelect } from "~/ui/plain-field";
import { Seen } from "~/ui/seen";
import { Table } from "~/ui/table";

import type { Route } from "./+types/kits.route";
import type { KitView } from "./kits.server";

/** One kit: what each place has of it, and what it holds. */
export function KitPanel({ kit, lead }: { kit: KitView; lead: boolean }) {
  return (
    <section key={kit.id} aria-labelledby={kit.id} className="panel mb-5 p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 id={kit.id} className="text-lg wrap-anywhere">
          {kit.name}
        </h2>
        {lead && (
          <Link to={`?edit=${kit.id}`} className="text-sm">
            Change<span className="sr-only"> {kit.name}</span>
          </Link>
        )}
      </div>
      <p className="text-sm text-ink-soft">
        For <Link to={`/book/procedures/${kit.procedureId}`}>{kit.procedureTitle}</Link>
      </p>
      <ul className="mt-3 space-y-2">
        {kit.places.map((place) => (
          <li key={place.placeId} className="border-l-4 border-line pl-3">
            <p className="font-semibold">
              {place.placeName}:{" "}
              {place.cover === null
                ? "its items are used up by no service"
                : place.cover.services === 1
                  ? "one more service"
                  : `${place.cover.services} more services`}
            </p>
            {place.cover && (
              <p className="text-sm">
                First out:{" "}
                {place.cover.firstOut.map((id) => kit.items.find((one) => one.itemId === id)?.name ?? id).join(", ")}.{" "}
                {place.missing.length > 0 && (
                  <span className="text-ink-soft">
                    Missing from a full kit:{" "}
                    {place.missing
                      .map(({ itemId, qty }) => {
                        const item = must(kit.items.find((one) => one.itemId === itemId));
                        return `${item.name}, ${quantity(qty, item.unit)}`;
                      })
                      .join("; ")}
                    .
                  </span>
                )}
              </p>
            )}
          </li>
        ))}
      </ul>
      {kit.places.length === 0 && <p className="mt-2">No place holds anything of it.</p>}
      <Table caption={`Contents of ${kit.name}`} className="text-sm" regionClass="mt-3">
        <thead>
          <tr>
            <th scope="col">Item</th>
            <th scope="col" className="text-right">
              In a full kit
            </th>
            <th scope="col" className="text-right">
              A service takes
            </th>
          </tr>
        </thead>
        <tbody>
          {kit.items.map((item) => (
            <tr key={item.itemId}>
              <td className="wrap-anywhere">
                <Link to={`/stores/items/${encodeURIComponent(item.itemId)}`}>{item.name}</Link>
              </td>
              <td className="figure text-right">
                {quantity(item.full, item.unit)}
                {item.usesPerPiece > 1 && ` = ${item.full * item.usesPerPiece} uses`}
              </td>
              <td className="figure text-right">
                {item.perService === 0
                  ? ""
                  : item.usesPerPiece > 1
                    ? `${item.perService} of its uses`
                    : quantity(item.perService, item.unit)}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}

export function KitForm({
  lead,
  edited,
  seen,
  answer,
  procedures,
}: {
  lead: boolean;
  edited: KitView | null;
  seen: string | null;
  answer: FormAnswer | undefined;
  procedures: Route.ComponentProps["loaderData"]["procedures"];
}) {
  if (!lead) return null;
  const { errors, message } = answerTo(answer, "kit");
  return (
    <Form method="post" className="panel space-y-3 p-4" key={edited?.id ?? "new"}>
      <h2 className="text-lg">{edited ? `Change ${edited.name}` : "Put a kit together"}</h2>
      {message && <Notice tone="problem">{message}</Notice>}
      {edited && <input type="hidden" name="kit" value={edited.id} />}
      {seen && <Seen seen={seen} answer={answer} form="kit" />}
      <PlainField
        id="k-name"
        name="name"
        label="Name"
        maxLength={160}
        defaultValue={edited?.name}
        answer={errors.name}
      />
      <PlainSelect
        id="k-procedure"
        name="procedureId"
        label="For the procedure"
        options={procedures.map((one) => ({
          id: one.id,
          name: `${one.title} (${one.family.replaceAll("-", " ")})`,
        }))}
        {...(edited ? { defaultValue: edited.procedureId } : {})}
        answer={errors.procedureId}
      />
      <PlainField
        id="k-contents"
        label="Contents"
        hint="One item a line: quantity, then its name or code. A scanner types the code."
        answer={errors.contents}
      >
        <textarea
          id="k-contents"
          name="contents"
          rows={6}
          className="field"
          aria-describedby={`k-contents-hint${errors.contents ? " k-contents-error" : ""}`}
          defaultValue={edited?.items.map((item) => `${item.full} ${item.name}`).join("\n")}
          placeholder="5 Roller sleeve"
        />
      </PlainField>
      <button className="btn btn-main">Save the kit</button>
    </Form>
  );
}
