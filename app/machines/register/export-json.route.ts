import { served } from "~/kit/server/served.server";
import { exportMachines } from "~/machines/machines.server";

export function loader() {
  return served(async () => {
    return new Response(await exportMachines("json"), {
      headers: {
        "Content-Type": "application/json",
        "Content-Disposition": 'attachment; filename="machines.json"',
        "Cache-Control": "no-store",
      },
    });
  });
}
