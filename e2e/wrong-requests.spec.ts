import { expect } from "@playwright/test";

import { draws } from "../core/testing/draws";
import { signIn } from "./helpers/app";
import { actions, drawnFrom, malformed, NAMES, showsCode } from "./helpers/malformed";
import { test } from "./helpers/test";

/** This file comes last: a button that sends nothing is pressed too, and changes the demo firm. */
const FORM = "application/x-www-form-urlencoded";
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
/** In `npm test` an address gets a third of them, the next one another third; `npm run soak` sends all. */
const EVERY = draws(3, 1);
const some = <One>(all: readonly One[], nth: number): One[] => all.filter((_, i) => (i + nth) % EVERY === 0);

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
      .flatMap(({ path, forms }, nth) => [
        ...some(REQUESTS, nth).map(([what, type, body]) => ({ path, what, type, body })),
        ...forms.flatMap((form, i) =>
          some(VALUES, nth + i).map(([what, body]) => ({
            path,
            what: `${form}: ${what}`,
            type: FORM,
            body: `intent=${form}&${body}`,
          })),
        ),
      ]);
    expect(letters.length).toBeGreaterThan(600 / EVERY);
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

test("requests drawn at random are answered with words, and never with where in the code it was", async ({
  page,
  context,
}) => {
  await signIn(page, "jonas");
  const origin = new URL(page.url()).origin;
  const Cookie = (await context.cookies()).map(({ name, value }) => `${name}=${value}`).join("; ");
  const machines = await (await page.request.get("/machines.json")).text();
  const entry = {
    id: "0198f0aa-1111-7222-8333-444455559999",
    runId: "0198f0aa-1111-7222-8333-444455556666",
    at: new Date().toISOString(),
    by: "0198f0aa-1111-7222-8333-444455558888",
    device: "phone",
    type: "note",
    text: "A note",
  };
  const real = { ids: [...machines.matchAll(/[0-9a-f]{8}-[0-9a-f-]{27}/g)].map(([id]) => id).slice(0, 20), entry };
  const random = drawnFrom(20_261_128);
  const letters = Array.from({ length: draws(200, 3000) }, () => malformed(random, real)).filter(
    ({ path }) => !/sign-out/i.test(path),
  );
  const faults: string[] = [];
  const lane = async (): Promise<void> => {
    for (let letter = letters.pop(); letter; letter = letters.pop()) {
      const { method, path, headers, body, what } = letter;
      const ask = () =>
        fetch(origin + path, {
          method,
          redirect: "manual",
          headers: { Origin: origin, Cookie, ...headers },
          ...(method === "POST" ? { body } : {}),
        });
      // A connection kept from before may just have been closed.
      const answer = await ask().catch(ask).catch(String);
      if (typeof answer === "string") faults.push(`${what} ${method} ${path}: ${answer}`);
      else if ((answer.status >= 500 && answer.status !== 502) || showsCode(await answer.text()))
        faults.push(`${what} ${method} ${path}: ${answer.status} for ${String(body).slice(0, 200)}`);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
  expect(faults).toEqual([]);
});
