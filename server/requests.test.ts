import type { Response } from "express";

import { understoodOnly } from "./requests";

/** The status that a request is refused with; "on" when it goes on. */
function ask(request: { method?: string; host?: string | undefined; url?: string }): number | "on" {
  let answer: number | "on" = "on";
  const response = {
    set: () => response,
    type: () => response,
    send: () => response,
    status: (status: number) => {
      answer = status;
      return response;
    },
  };
  const { method = "GET", url = "/round" } = request;
  const host = "host" in request ? request.host : "hound.example";
  understoodOnly({ method, url, headers: { host } }, response as unknown as Response, () => undefined);
  return answer;
}

it.each(["hound.example", "hound.example:8443", "localhost", "127.0.0.1:3000", "[::1]:3000", "HOUND", "my_box."])(
  "goes on from the host %s",
  (host) => {
    expect(ask({ host })).toBe("on");
  },
);

it.each(["a b", "", undefined, "[::1", "x/y", "x?y", "x#y", "u@x", "x:123456", "x:y", "..", "%20"])(
  "does not know the host %p",
  (host) => {
    expect(ask({ host })).toBe(400);
  },
);

it.each(["/", "/round?on=2026-06-01", "/t/%C3%A9", "/a//b", "/round/../x", "/?next=//x"])("takes %s", (url) => {
  expect(ask({ url })).toBe("on");
});

it.each(["//evil.example/x", "/\\evil.example", "http://evil.example/x", "*", "", "//[", "/%E0%A4%A", "/%"])(
  "does not take %p for an address",
  (url) => {
    expect(ask({ url })).toBe(400);
  },
);

it("answers to what pages ask with, and to nothing else", () => {
  for (const method of ["GET", "HEAD", "POST", "OPTIONS"]) expect(ask({ method })).toBe("on");
  for (const method of ["TRACE", "PUT", "PATCH", "DELETE", "PROPFIND", "get"]) expect(ask({ method })).toBe(405);
});
