import { writeMachineCsv } from "./machine-csv.server";

/** A file to fill in: all columns, and a row that shows how. */
export const machinesTemplate = (): string =>
  writeMachineCsv([
    {
      customer: "Example customer",
      site: "Example site",
      address: "1 Quay",
      time_zone: "Atlantic/Azores",
      water_hardness_mg_l: 95,
      access_hours: "Mon-Fri 07:00-18:00; Sat 08:00-12:00",
      area: "Kitchen",
      tag: "EXAMPLE-1",
      name: "Row to show how: take it out",
      family: "flake-ice-maker",
      maker: "",
      model: "",
      serial: "",
      commissioned_on: null,
      duties_from: "2026-04-03",
      options: ["water-filter"],
      notes: "",
    },
  ]);
