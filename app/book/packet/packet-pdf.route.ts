import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/packet-pdf.route";
import { packetPdf, servicePacket } from "./packet.server";

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const view = await servicePacket(params.sheetId, new Date());
    return new Response(new Uint8Array(await packetPdf(view)), {
      headers: {
        "Content-Type": "application/pdf",
        "Content-Disposition": `inline; filename="packet-${view.record.machine.tag}.pdf"`,
        "Cache-Control": "no-store",
      },
    });
  });
}
