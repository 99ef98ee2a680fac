import type { Procedure } from "@core";

import { isGeneral } from "~/duties/general-procedures";

/** What a sheet is called: by its procedure, or by its duty where the procedure stands for many kinds of work. */
export function sheetTitle(procedure: Pick<Procedure, "id" | "title">, duty: { title: string }): string {
  return isGeneral(procedure.id) ? duty.title : procedure.title;
}
