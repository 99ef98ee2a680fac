import { expect } from "@playwright/test";

import { ACCESS } from "../app/shell/access";
import { must } from "../core/must";
import { signIn } from "./helpers/app";
import { test } from "./helpers/test";

const ID = "0190a000-0000-7000-8000-000000000001";

/** Other addresses that a router may take for the same page. */
const VARIANTS: [name: string, change: (path: string) => string][] = [
  ["as it is", (path) => path],
  ["a slash behind", (path) => `${path}/`],
  ["two slashes before", (path) => `/${path}`],
  ["capitals", (path) => path.toUpperCase()],
  [
    "its last word encoded",
    (path) => path.replace(/\/([a-z])([^/]*)$/, (_, first: string, rest: string) => `/%${hex(first)}${rest}`),
  ],
  ["all of it encoded", (path) => path.replace(/[a-z]/g, (letter) => `%${hex(letter)}`)],
  ["a data request", (path) => `${path}.data`],
  ["a data request, encoded", (path) => `${path.replace(/[a-z](?=[^/]*$)/, (letter) => `%${hex(letter)}`)}.data`],
  ["a dot before", (path) => `/.${path}`],
  ["up and down again", (path) => `/round/..${path}`],
];

const METHODS = ["GET", "POST", "HEAD", "PUT", "PATCH", "DELETE"];
const hex = (letter: string): string => must(letter.codePointAt(0)).toString(16);

for (const tag of ["", " @soak"])
  test(`every address of every route answers those alone who may call it${tag}`, async ({ page, context, baseURL }) => {
    test.setTimeout(600_000);
    const origin = must(baseURL);
    const cookies = new Map<string, string>([["nobody", ""]]);
    for (const name of ["mira", "jonas"] as const) {
      await signIn(page, name);
      cookies.set(name, (await context.cookies()).map((one) => `${one.name}=${one.value}`).join("; "));
      await context.clearCookies();
    }
    // In every run the pages of leads, and everything else as it is; all of it in the long one.
    const asked = ACCESS.filter(([pattern]) => pattern !== "/sign-out").flatMap(([pattern, allowed]) =>
      VARIANTS.filter((_, i) => tag || i === 0 || (allowed !== "everyone" && !allowed.includes("technician"))).flatMap(
        ([variant, change]) =>
          METHODS.filter((method) => tag || ["GET", "POST"].includes(method)).flatMap((method) =>
            // Whom everything is open to has each page rendered: in the long run alone.
            [...cookies.keys()]
              .filter((who) => tag || who !== "jonas")
              .map((who) => ({
                path: change(pattern.replace(/:(\w+)/g, ID).replace("*", "no-such-place")),
                variant,
                method,
                who,
                may:
                  allowed === "everyone" ||
                  (who === "jonas" && allowed.includes("lead")) ||
                  (who === "mira" && allowed.includes("technician")),
                plain: variant === "as it is",
              })),
          ),
      ),
    );
    expect(asked.length).toBeGreaterThan(500);
    const wrong: string[] = [];
    const ask = async ({ path, variant, method, who, may, plain }: (typeof asked)[number]): Promise<void> => {
      const answer = await fetch(origin + path, {
        method,
        redirect: "manual",
        headers: {
          Cookie: must(cookies.get(who)),
          Origin: origin,
          "Content-Type": "application/x-www-form-urlencoded",
        },
        ...(method === "POST" ? { body: "intent=nothing-like-this" } : {}),
      });
      const body = await answer.text();
      const sentAway =
        [301, 302, 303, 307, 308].includes(answer.status) ||
        // A data request is told where to go in its body.
        (answer.status === 202 && (method === "HEAD" || body.includes("redirect")));
      const refused = sentAway || [400, 401, 403, 404, 405].includes(answer.status);
      const say = (what: string): void =>
        void wrong.push(`${who} ${method} ${path} (${variant}): ${answer.status}, ${what}`);
      if (answer.status >= 500 && answer.status !== 502) say("a fault");
      else if (!may && !refused) say("let in");
      else if (
        may &&
        plain &&
        (answer.status === 401 ||
          answer.status === 403 ||
          (sentAway && /sign-in/.test(answer.headers.get("location") ?? "")))
      )
        say("kept out");
    };
    const queue = [...asked];
    await Promise.all(
      Array.from({ length: 6 }, async () => {
        for (let one = queue.pop(); one; one = queue.pop()) await ask(one);
      }),
    );
    expect(wrong).toEqual([]);
  });
