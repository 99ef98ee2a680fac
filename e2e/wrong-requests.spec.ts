import { readFileSync } from "node:fs";

import { expect, test } from "@playwright/test";

import { signIn } from "./helpers/app";

/**
 * Every action of the app, by its path with made-up ids, and the forms it knows. Its file comes last: a button that sends
 * nothing is pressed too, and changes the demo firm.
 */
const ID = "0198f0aa-1111-7222-8333-444455556666";
const actions = [...readFileSync("app/routes.ts", "utf8").matchAll(/(?:route|index)\((?:"([^"]*)", )?"([^"]+)"\)/g)]
  .map(([, path = "", file = ""]) => ({ path, source: readFileSync(`app/${file}`, "utf8") }))
  .filter(({ source }) => /export (async )?function action\(/.test(source))
  .map(({ path, source }) => ({
    path: `/${path.replace(/:(itemId|procedureId)\b/, "own-duty").replace(/:\w+/g, ID)}`,
    forms: [...source.matchAll(/^ {4,6}"?([a-z-]+)"?: (?:form|leadForm|log|settle|setAside)\(/gm)].map(
      ([, name = ""]) => name,
    ),
  }));

const FORM = "application/x-www-form-urlencoded";
/** Names that forms here use, so that wrong values reach their schemas. */
const NAMES =
  "plan name site to on from qty item place day date value meter note reason title tag minutes start end order link file photo planIds ids person kind expiresOn ref field why password customer customerName drawing body revision found[0].qty lines[0].packs triggers[0].every rate".split(
    " ",
  );
const filled = (value: string): string => NAMES.map((name) => `${name}=${encodeURIComponent(value)}`).join("&");

/** What no browser sends, whatever the form: once to each address. */
const REQUESTS: [what: string, type: string, body: string][] = [
  ["nothing", FORM, ""],
  ["no form", "application/json", '{"intent":"add"}'],
  ["text", "text/plain", "intent=add"],
  ["a broken multipart form", "multipart/form-data; boundary=x", '--x\r\nContent-Disposition: form-data; name="a'],
  ["a multipart form without its boundary", "multipart/form-data", "x"],
  ["names of objects", FORM, "__proto__[x]=1&constructor.prototype.x=1&toString=1&intent=toString"],
  ["a far row", FORM, "a[100000000]=x&a[300000]=x&lines[999].packs=1"],
  ["rows without end", FORM, Array.from({ length: 1500 }, () => "a[0]=x").join("&")],
  ["too many fields", FORM, Array.from({ length: 20_000 }, (_, i) => `f${i}=`).join("&")],
  ["more than a page sends", FORM, `name=${"x".repeat(1_700_000)}`],
];

/** Values that cannot be kept, in every field: to each form. */
const VALUES: [what: string, body: string][] = [
  ["nothing", ""],
  ["fields sent twice", `${filled("1")}&${filled("2")}`],
  ["days that are none", filled("2026-02-30")],
  ["signs that nobody types", filled("\u0000\u202e\u{1f415}ü")],
  ["half a character", NAMES.map((name) => `${name}=%ED%A0%80`).join("&")],
  ["far too much of a number", filled("1e308")],
  ["an id in other letters", filled("ÀÉ".repeat(18))],
];

const AT_ONCE = 6;
/** In `npm test` each form gets every other kind of value; `npm run soak` sends all. */
const CHOSEN = process.env.HOUND_SOAK ? VALUES : VALUES.filter((_, i) => i % 2 === 0);

for (const tag of ["", " @soak"])
  test(`every action answers whatever is sent to it with words, never with a fault${tag}`, async ({
    page,
    context,
  }) => {
    expect(actions.length).toBeGreaterThan(35);
    await signIn(page, "jonas");
    const origin = new URL(page.url()).origin;
    const cookie = (await context.cookies()).map(({ name, value }) => `${name}=${value}`).join("; ");
    const letters = actions
      .filter(({ path }) => path !== "/sign-out")
      .flatMap(({ path, forms }) => [
        ...REQUESTS.map(([what, type, body]) => ({ path, what, type, body })),
        ...forms.flatMap((form) =>
          CHOSEN.map(([what, body]) => ({
            path,
            what: `${form}: ${what}`,
            type: FORM,
            body: `intent=${form}&${body}`,
          })),
        ),
      ]);
    expect(letters.length).toBeGreaterThan(600);
    const faults: string[] = [];
    const send = async ({ path, what, type, body }: (typeof letters)[number]): Promise<void> => {
      const post = () =>
        fetch(origin + path, {
          method: "POST",
          headers: { Origin: origin, Cookie: cookie, "Content-Type": type },
          body,
          redirect: "manual",
        });
      // A connection kept from before may just have been closed.
      const answer = await post().catch(post).catch(String);
      const status = typeof answer === "string" ? 599 : answer.status;
      if (status >= 500 && status !== 502)
        faults.push(`${path} ${what}: ${typeof answer === "string" ? answer : status}`);
    };
    const queue = [...letters];
    await Promise.all(
      Array.from({ length: AT_ONCE }, async () => {
        for (let letter = queue.pop(); letter; letter = queue.pop()) await send(letter);
      }),
    );
    expect(faults).toEqual([]);
  });
