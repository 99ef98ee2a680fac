import { Link } from "react-router";

import { Drawing } from "~/sheet/signing/customer-part";
import { AtSite } from "~/ui/day";

import type { Route } from "./+types/record.route";

type Data = Route.ComponentProps["loaderData"];

/** Who signed, how, and for what else with the same signature. */
export function Signatures({
  state,
  signature,
  sheet,
  name,
  timeZone,
  together,
}: {
  state: Data["state"];
  signature: Data["state"]["technicianSignature"];
  sheet: Data["sheet"];
  name: (id: string) => string;
  timeZone: Data["timeZone"];
  together: Data["together"];
}) {
  return (
    <section className="grid gap-4 sm:grid-cols-2">
      <div className="panel p-4">
        <h2 className="mb-2 text-lg">Customer</h2>
        {state.customerSignature === null ? (
          <p>Did not sign.</p>
        ) : state.customerSignature.method === "not-present" ? (
          <p>Not present: {state.customerSignature.reason}</p>
        ) : (
          <>
            {state.customerSignature.method === "drawn" && (
              <Drawing path={state.customerSignature.drawing} name={state.customerSignature.name} />
            )}
            <p>
              {state.customerSignature.name}
              {state.customerSignature.method === "typed" && " (typed)"}
            </p>
          </>
        )}
        {together.length > 0 && (
          <p className="mt-1 text-sm wrap-anywhere">
            One signature for the visit, with{" "}
            {together.map((one, i) => (
              <span key={one.sheetId}>
                {i > 0 && ", "}
                <Link to={`/book/records/${one.sheetId}`}>{one.machineName}</Link>
              </span>
            ))}
          </p>
        )}
      </div>
      <div className="panel p-4">
        <h2 className="mb-2 text-lg">Technician</h2>
        <p>{signature ? signature.name : sheet.closedBy ? name(sheet.closedBy) : ""}</p>
        <p className="text-sm text-ink-soft">
          {signature ? "Signed with password" : "Ended the sheet"}{" "}
          {sheet.closedAt && <AtSite at={sheet.closedAt} timeZone={timeZone} />}
        </p>
      </div>
    </section>
  );
}
