import { served } from "~/kit/server/served.server";
import { exportMachines } from "~/machines/machines.server";

export function loader() {
  return served(async () => {
    return new Response(await exportMachines(), {
      headers: {
        "Content-Type": "text/csv; charset=utf-8",
        "Content-Disposition": 'attachment; filename="machines.csv"',
        "Cache-Control": "no-store",
      },
    });
  });
}
