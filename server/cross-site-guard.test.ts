import { comesFromHere } from "./cross-site-guard";

const ask = (headers: Record<string, string>) =>
  comesFromHere({ protocol: "https", headers: { host: "hound.example", ...headers } });

it.each<[Record<string, string>, boolean]>([
  [{ origin: "https://hound.example", "sec-fetch-site": "same-origin" }, true],
  [{ origin: "https://hound.example" }, true],
  [{ "sec-fetch-site": "same-origin" }, true],
  [{}, false],
  [{ origin: "https://elsewhere.example" }, false],
  [{ origin: "http://hound.example" }, false],
  [{ origin: "null" }, false],
  [{ "sec-fetch-site": "same-site", origin: "https://hound.example" }, false],
  [{ "sec-fetch-site": "cross-site" }, false],
  [{ "sec-fetch-site": "none" }, false],
])("%j comes from here: %s", (headers, expected) => expect(ask(headers)).toBe(expected));
