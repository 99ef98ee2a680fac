import { exportMachines } from "~/machines/machines.server";

export async function loader() {
  return new Response(await exportMachines("json"), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": 'attachment; filename="machines.json"',
      "Cache-Control": "no-store",
    },
  });
}
