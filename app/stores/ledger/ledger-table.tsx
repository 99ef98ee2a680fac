import { Link } from "react-router";

import { quantity } from "~/kit/forms/quantity";
import type { LedgerLine } from "~/stores/items/overview.server";
import { OnDay } from "~/ui/day";
import { Table } from "~/ui/table";

const KINDS: Record<string, string> = {
  opening: "Opening",
  receive: "Received",
  move: "Moved",
  use: "Used",
  scrap: "Thrown away",
  count: "Counted",
};

/** Lines of the ledger, the newest first: what came and went where, by whom, and what for. */
export function LedgerTable({ lines, unit }: { lines: readonly LedgerLine[]; unit: string }) {
  if (lines.length === 0) return <p className="mt-1">Nothing has come or gone yet.</p>;
  return (
    <Table caption="Lines of the ledger" className="min-w-lg text-sm" regionClass="mt-2">
      <thead>
        <tr>
          <th scope="col">Day</th>
          <th scope="col" className="text-right">
            Quantity
          </th>
          <th scope="col">What</th>
          <th scope="col">Place</th>
          <th scope="col">By</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.seq}>
            <td className="whitespace-nowrap">
              <OnDay on={line.onDay} />
            </td>
            <td className="figure text-right whitespace-nowrap">
              {line.qty > 0 ? "+" : line.qty < 0 ? "−" : "±"}
              {quantity(Math.abs(line.qty), unit)}
            </td>
            <td className="wrap-anywhere">
              {KINDS[line.kind] ?? line.kind}
              {line.counted !== null && <> {quantity(line.counted, unit)}</>}
              {line.lot && <span className="text-ink-soft"> lot {line.lot}</span>}
              {line.sheetId && (
                <>
                  {" "}
                  <Link to={`/book/records/${line.sheetId}`}>{line.machineName ?? "sheet"}</Link>
                </>
              )}
              {line.orderId && (
                <>
                  {" "}
                  <Link to={`/stores/orders/${line.orderId}`}>order</Link>
                </>
              )}
              {line.note && <span className="block text-ink-soft">{line.note}</span>}
            </td>
            <td className="wrap-anywhere">{line.placeName}</td>
            <td className="wrap-anywhere">{line.by}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
