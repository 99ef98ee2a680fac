import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/record-pdf.route";
import { printed } from "./print/printed.server";
import { recordPdf } from "./print/record-pdf.server";
import { loadRecord } from "./records.server";

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const record = await loadRecord(params.sheetId, new Date());
    if (record.sheet.status === "open")
      throw new Response("This sheet is still open. It has a PDF when it is signed or ended.", { status: 409 });
    const pdf = await recordPdf(printed(record));
    const name = `record-${record.machine.tag}-${record.sheet.doneOn ?? "not-done"}.pdf`;
    return new Response(new Uint8Array(pdf), {
      headers: {
        "Content-Type": "application/pdf",
        "Content-Disposition": `inline; filename="${name}"`,
        "Cache-Control": "no-store",
      },
    });
  });
}
