import type { RecordView } from "~/book/records.server";

/** Which machine, and where it stands, as every print begins. */
export function machineFacts({ machine }: Pick<RecordView, "machine">): [name: string, value: string][] {
  const listed = (...parts: string[]): string => parts.filter(Boolean).join(", ");
  return [
    ["Machine", `${machine.name}, tag ${machine.tag}`],
    ["Maker, model, serial", listed(machine.maker, machine.model, machine.serial)],
    ["Site", listed(machine.customerName, machine.siteName, machine.area, machine.address)],
  ];
}
