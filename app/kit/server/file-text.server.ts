import { Refusal } from "~/kit/refusal";

/**
 * The text of an uploaded table.
 *
 * @throws Refusal at the field `file` when it is no UTF-8
 */
export async function fileText(file: File): Promise<string> {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(await file.arrayBuffer());
  } catch {
    throw new Refusal(
      422,
      "file",
      "This file is not UTF-8 text. Save it as CSV UTF-8 and choose it again. Nothing was changed.",
    );
  }
}
