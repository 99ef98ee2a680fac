import { Refusal } from "~/kit/refusal";

/** A form of a page is a few kilobytes; those with files or long texts say so. */
export const USUAL_BYTES = 256 * 1024;
/** Fields of one form; counted before anything is parsed. */
const MOST_FIELDS = 2000;

/** Room for the names and heads of a form's parts beside its file. */
const FRAME_BYTES = 128 * 1024;

/** More than any page lets a person send: what is longer is not even read to its end. */
const MOST_READ = 32 * 1024 * 1024;

/**
 * The body of a request. What is too long is not kept, whatever length the sender declares, but read to its end: a browser
 * that is cut off in the middle of sending shows its own error instead of our words.
 *
 * @throws Refusal 413
 */
export async function readBody(request: Request, maxBytes: number, tooLarge?: string): Promise<Buffer> {
  const refusal = () =>
    new Refusal(413, "too-large", tooLarge ?? `This is more than ${inWords(maxBytes)}. Send it in parts.`);
  if (Number(request.headers.get("content-length") ?? 0) > MOST_READ) throw refusal();
  const chunks: Uint8Array[] = [];
  let size = 0;
  try {
    for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
      size += chunk.byteLength;
      if (size > MOST_READ) throw refusal();
      if (size <= maxBytes) chunks.push(chunk);
      else chunks.length = 0;
    }
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal(400, "cut-off", "The request broke off on its way. Send it again.");
  }
  if (size > maxBytes) throw refusal();
  return Buffer.concat(chunks);
}

function inWords(bytes: number): string {
  return bytes >= 1024 * 1024 ? `${Math.round(bytes / 1024 / 1024)} MB` : `${Math.round(bytes / 1024)} kB`;
}

/**
 * The fields of a posted form. Its kind, its size and the number of its fields are looked at before it is parsed.
 *
 * @throws Refusal 400, 413 or 415, in words for the person
 */
export async function readForm(
  request: Request,
  limits: { maxFileBytes?: number; tooLarge?: string } = {},
): Promise<FormData> {
  const type = (request.headers.get("content-type") ?? "").toLowerCase();
  const kind = type.split(";")[0]?.trim();
  if (kind !== "application/x-www-form-urlencoded" && kind !== "multipart/form-data")
    throw new Refusal(415, "no-form", "This request is no form. Load the page again.");
  const maxBytes = limits.maxFileBytes === undefined ? USUAL_BYTES : limits.maxFileBytes + FRAME_BYTES;
  const body = await readBody(request, maxBytes, limits.tooLarge);
  if (kind === "application/x-www-form-urlencoded") {
    requireFew(count(body, "&"));
    const form = new FormData();
    for (const [name, value] of new URLSearchParams(body.toString("utf8"))) form.append(name, value);
    return form;
  }
  const boundary = /boundary=(?:"([^"]{1,200})"|([^\s;]{1,200}))/i.exec(request.headers.get("content-type") ?? "");
  if (!boundary) throw new Refusal(400, "broken-form", "The form did not arrive whole. Send it again.");
  requireFew(count(body, `--${boundary[1] ?? boundary[2] ?? ""}`));
  try {
    return await new Response(new Uint8Array(body), {
      headers: { "Content-Type": request.headers.get("content-type") ?? "" },
    }).formData();
  } catch {
    throw new Refusal(400, "broken-form", "The form did not arrive whole. Send it again.");
  }
}

function requireFew(fields: number): void {
  if (fields > MOST_FIELDS)
    throw new Refusal(413, "too-many-fields", "This form has more fields than any page sends. Load the page again.");
}

/** Times a mark stands in a body; stops counting where it is too many anyway. */
function count(body: Buffer, mark: string): number {
  let found = 0;
  for (let at = body.indexOf(mark); at >= 0 && found <= MOST_FIELDS; at = body.indexOf(mark, at + mark.length))
    found += 1;
  return found;
}

/** How deep JSON from outside may be nested, and how many values it may hold. */
const JSON_DEPTH = 40;

/**
 * JSON that is not deeper and has no more values than anything we read: what validates it is slow enough that a small text
 * of a hundred thousand ones would hold the process.
 *
 * @throws Refusal 400 when it is no JSON, 413 when there is too much of it
 */
export function readJson(text: string, maxValues: number): unknown {
  let depth = 0;
  let values = 0;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const character = text.charCodeAt(i);
    if (inText) {
      if (character === 92) i += 1;
      else if (character === 34) inText = false;
    } else if (character === 34) inText = true;
    else if (character === 91 || character === 123) depth += 1;
    else if (character === 93 || character === 125) depth -= 1;
    else if (character === 44 || character === 58) values += 1;
    if (depth > JSON_DEPTH || values > maxValues)
      throw new Refusal(413, "too-much", "This JSON is deeper or longer than anything that belongs here.");
  }
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Refusal(400, "not-json", "This is no JSON.");
  }
}
