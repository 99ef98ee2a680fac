import { execFileSync } from "node:child_process";
import { join } from "node:path";

interface Row {
  start: string;
  unit: string;
  count: number;
  ours: string[];
  theirs: string[];
}

describe("calendar grids agree with rrule-temporal (RFC 5545), whatever the server's time zone", () => {
  it.each(["UTC", "America/St_Johns", "Pacific/Kiritimati"])("under TZ=%s", (zone) => {
    const script = join(__dirname, "testing", "grid-cases.ts");
    const printed = execFileSync(process.execPath, ["--import", "tsx", script, "print"], {
      env: { ...process.env, TZ: zone },
      encoding: "utf8",
    });
    const { zone: reported, rows } = JSON.parse(printed) as { zone: string; rows: Row[] };
    expect(reported).toBe(zone);
    expect(rows.length).toBe(140);
    for (const row of rows) expect({ ...row, days: row.ours }).toEqual({ ...row, days: row.theirs });
  });
});
