import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { must } from "../../must";
import { expandNested } from "../expand-nested";
import { placeGates } from "../place-gates";
import type { Procedure } from "../procedure";
import { withDefaults } from "../terse";

const FOLDER = join(process.cwd(), "procedures");

/** Ids of the shipped procedures. */
export const shippedIds = (): string[] =>
  readdirSync(FOLDER)
    .filter((file) => file.endsWith(".json"))
    .map((file) => file.replace(".json", ""));

/** A shipped procedure, read from its file. */
export const shipped = (id: string): Procedure =>
  withDefaults(JSON.parse(readFileSync(join(FOLDER, `${id}.json`), "utf8"))) as Procedure;

/** Where sheets lie as an earlier version has them. */
export const EARLIER = join(process.cwd(), "core/sheet/testing/earlier");

/** Sheets in the first version of the format, as machines still have them: what was published is never changed. */
export const earlier = (id: string): Procedure =>
  withDefaults(JSON.parse(readFileSync(join(EARLIER, `${id}.json`), "utf8"))) as Procedure;

export const allShipped = (): Procedure[] => shippedIds().map(shipped);

/** A shipped procedure as it is worked: what it nests in its place, gates put in. */
export const whole = (procedure: Procedure, all: readonly Procedure[] = allShipped()): Procedure =>
  placeGates(
    expandNested(procedure, (id, version) => must(all.find((one) => one.id === id && one.version === version))),
  );
