import { exportMachines } from "~/machines/machines.server";

export async function loader() {
  return new Response(await exportMachines(), {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": 'attachment; filename="machines.csv"',
      "Cache-Control": "no-store",
    },
  });
}
