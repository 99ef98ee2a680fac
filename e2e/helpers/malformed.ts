import { readFileSync } from "node:fs";

import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../../core/random";

/** Requests that no page sends, drawn at random from what the app's addresses, forms and logs are made of. */
export interface Letter {
  what: string;
  method: "GET" | "POST";
  path: string;
  headers: Record<string, string>;
  body: string | Uint8Array<ArrayBuffer> | null;
}

const FORM = "application/x-www-form-urlencoded";
const ID = "0198f0aa-1111-7222-8333-444455556666";
const routes = [...readFileSync("app/routes.ts", "utf8").matchAll(/(?:route|index)\((?:"([^"]*)", )?"([^"]+)"\)/g)].map(
  ([, path = "", file = ""]) => ({ path: `/${path}`, source: readFileSync(`app/${file}`, "utf8") }),
);

/** Every action of the app, by its path with made-up ids, and the forms it knows. */
export const actions = routes
  .filter(({ source }) => /export (async )?function action\(/.test(source))
  .map(({ path, source }) => ({
    path: path.replace(/:(itemId|procedureId)\b/, "own-duty").replace(/:\w+/g, ID),
    pattern: path,
    forms: [...source.matchAll(/^ {4,6}"?([a-z-]+)"?: (?:form|leadForm|log|settle|setAside)\(/gm)].map(
      ([, name = ""]) => name,
    ),
  }));

/** Names that forms here use, so that wrong values reach their schemas. */
export const NAMES =
  "plan name site to on from qty item place day date value meter note reason title tag minutes start end order link file photo duties seen ids person kind expiresOn ref field why password customer customerName drawing body revision newest found[0].qty lines[0].packs triggers[0].every rate contents kit q after before view query add for".split(
    " ",
  );

const VALUES = [
  "",
  " ",
  "0",
  "-1",
  "2.5",
  "1e308",
  "NaN",
  "Infinity",
  "1,5",
  "99999999999999999999",
  "2026-02-30",
  "0000-00-00",
  "9999-12-31",
  "0001-01-01",
  "2026-13-01T25:61:61Z",
  "2026-06-01T00:00:00+99:99",
  "24:00",
  "\u0000",
  "\u202e\u{1f415}ü",
  "null",
  "[]",
  "{}",
  '{"__proto__":{"a":1}}',
  '[{"dutyId":1}]',
  "__proto__",
  "constructor",
  "toString",
  "../../etc/passwd",
  "//evil.example",
  "/\t/evil.example",
  "%",
  "%00",
  "\\",
  "'; DROP TABLE sheets; --",
  "<script>alert(1)</script>",
  "=1+1",
  "M 999999 1e9 L -5 0",
  ID,
  ID.toUpperCase(),
  "ÀÉ".repeat(18),
  "x".repeat(5000),
  " ".repeat(3000),
  "a".repeat(64),
];

const TYPES = [
  FORM,
  "application/json",
  "text/plain",
  "multipart/form-data",
  "multipart/form-data; boundary=x",
  "multipart/form-data; boundary=",
  "application/octet-stream",
  `${FORM}; charset=utf-16`,
  "",
  "nonsense",
];

/** Numbers from 0 to below 1 that a seed decides. */
export const drawnFrom = (seed: number): (() => number) => uniform(xoroshiro128plus(seed));

/**
 * Draws one.
 *
 * @param real ids that are there, so that what is wrong lies deeper: sheets, machines, duties, sites
 * @param entry a log entry as it should be, to be spoiled
 */
export function malformed(
  random: () => number,
  real: { ids: readonly string[]; entry: Record<string, unknown> },
): Letter {
  const pick = <One>(list: readonly One[]): One => list[Math.floor(random() * list.length)] as One;
  const some = (most: number): number => Math.floor(random() * (most + 1));
  const id = (): string =>
    random() < 0.6 && real.ids.length > 0 ? pick(real.ids) : pick(VALUES.filter((one) => one.length < 200));
  const at = (pattern: string): string =>
    pattern.replace(/:\w+|\*/g, (name) =>
      encodeURIComponent(name === ":itemId" || name === ":procedureId" ? pick(["own-duty", id()]) : id()),
    );
  const query = (): string =>
    Array.from({ length: some(3) }, () => `${pick(NAMES)}=${encodeURIComponent(pick(VALUES))}`).join("&");
  const fields = (): string =>
    Array.from({ length: some(12) }, () => {
      const name = pick([...NAMES, "a[100000000]", "a[0][1]", "__proto__[x]", "[]", "x.y.z", "intent"]);
      const value = random() < 0.05 ? "%ED%A0%80" : encodeURIComponent(pick(VALUES));
      return `${encodeURIComponent(name)}=${value}`;
    }).join("&");
  const spoiled = (): unknown => {
    const odd: unknown[] = [
      ...VALUES,
      null,
      true,
      1e15,
      -0.5,
      [],
      {},
      [[[]]],
      { a: { b: {} } },
      Array(500).fill(1),
      real.entry,
    ];
    const entry: Record<string, unknown> = { ...real.entry, id: pick([real.entry["id"], ID, pick(odd)]) };
    for (let i = some(3); i >= 0; i--)
      entry[
        pick([...Object.keys(real.entry), "step", "round", "value", "unit", "text", "ref", "deviceAt", "__proto__"])
      ] = pick(odd);
    return random() < 0.1 ? pick(odd) : entry;
  };
  const post = (what: string, path: string, type: string, body: Letter["body"]): Letter => ({
    what,
    method: "POST",
    path,
    headers: {
      ...(type ? { "Content-Type": type } : {}),
      ...(random() < 0.1
        ? { "Idempotency-Key": pick([ID, "x", "ü".normalize("NFD").slice(0, 1), "1".repeat(300)]) }
        : {}),
    },
    body,
  });
  const kind = random();
  if (kind < 0.45) {
    const { pattern, forms } = pick(actions);
    const intent = forms.length > 0 && random() < 0.9 ? `intent=${pick(forms)}&` : "";
    return post("a form", at(pattern), FORM, intent + fields());
  }
  if (kind < 0.6) {
    const bodies = [
      fields(),
      '{"intent":"add"',
      '--x\r\nContent-Disposition: form-data; name="a',
      `--x\r\nContent-Disposition: form-data; name="file"; filename="a.csv"\r\n\r\n${pick(VALUES)}\r\n--x--\r\n`,
      `--x\r\nContent-Disposition: form-data; name="photo"; filename="a.svg"\r\nContent-Type: image/png\r\n\r\n<svg/>\r\n--x--\r\n`,
      "[".repeat(2000),
      Uint8Array.from({ length: some(400) }, () => some(255)),
    ];
    return post("another kind of body", at(pick(actions).pattern), pick(TYPES), pick(bodies));
  }
  if (kind < 0.8) {
    const list = Array.from({ length: some(4) }, spoiled);
    const body = pick<unknown>([
      { entries: list },
      { entries: list },
      { entries: list },
      list,
      { entries: pick(VALUES) },
      null,
    ]);
    return post(
      "a spoiled batch",
      `/api/sheets/${encodeURIComponent(id())}/entries`,
      "application/json",
      JSON.stringify(body),
    );
  }
  const { path } = pick(routes);
  const data = random() < 0.3 ? ".data" : "";
  return { what: "an address", method: "GET", path: `${at(path)}${data}?${query()}`, headers: {}, body: null };
}

/** Whether an answer shows where in the code something failed. */
export const showsCode = (body: string): boolean => /\n\s+at .+:\d+:\d+|node_modules\//.test(body);
