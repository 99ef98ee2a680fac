import fc from "fast-check";

import type { Refusal } from "~/kit/refusal";

import { readBody, readForm, readJson } from "./read-request.server";

const ADDRESS = "http://hound.test/machines";
const URLENCODED = "application/x-www-form-urlencoded";

function posted(body: BodyInit, type = URLENCODED, headers: Record<string, string> = {}): Request {
  return new Request(ADDRESS, { method: "POST", body, headers: { "Content-Type": type, ...headers } });
}

/** A body that comes in pieces and says nothing of its length. */
function streamed(pieces: Iterable<Uint8Array>, type = URLENCODED): Request {
  const iterator = pieces[Symbol.iterator]();
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      const { done, value } = iterator.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
  });
  return new Request(ADDRESS, {
    method: "POST",
    body,
    headers: { "Content-Type": type },
    duplex: "half",
  } as RequestInit);
}

function* pieces(count: number, bytes: number, counted: { sent: number }): Generator<Uint8Array> {
  for (let i = 0; i < count; i++) {
    counted.sent += bytes;
    yield new Uint8Array(bytes).fill(97);
  }
}

const refusal = (work: Promise<unknown>): Promise<Refusal> =>
  work.then(
    () => {
      throw new Error("nothing was refused");
    },
    (error: unknown) => error as Refusal,
  );

describe("the body of a request", () => {
  it("is read whole up to its limit, and not a byte beyond", async () => {
    expect((await readBody(posted("a".repeat(1000)), 1000)).length).toBe(1000);
    expect(await refusal(readBody(posted("a".repeat(1001)), 1000))).toMatchObject({ status: 413, code: "too-large" });
  });

  it("is measured by what comes, not by what the sender declares", async () => {
    const counted = { sent: 0 };
    const refused = await refusal(readBody(streamed(pieces(64, 16_384, counted)), 256 * 1024));
    expect(refused).toMatchObject({ status: 413 });
    expect(refused.message).toBe("This is more than 256 kB. Send it in parts.");
    // Read to its end, so that the browser shows our words and not a broken connection.
    expect(counted.sent).toBe(64 * 16_384);
  });

  it("is given up where it is longer than anything a page sends", async () => {
    const counted = { sent: 0 };
    const refused = await refusal(readBody(streamed(pieces(1000, 1024 * 1024, counted)), 256 * 1024));
    expect(refused).toMatchObject({ status: 413 });
    expect(counted.sent).toBeLessThan(40 * 1024 * 1024);
  });

  it("is not begun where its declared length cannot be meant", async () => {
    const request = posted("a", URLENCODED, { "Content-Length": String(10 ** 12) });
    expect(await refusal(readBody(request, 1000, "Too large a file."))).toMatchObject({
      status: 413,
      message: "Too large a file.",
    });
  });

  it("that breaks off on its way is nobody's fault and said so", async () => {
    const body = new ReadableStream<Uint8Array>({
      start(controller) {
        controller.enqueue(new Uint8Array(10));
        controller.error(new Error("aborted"));
      },
    });
    const request = new Request(ADDRESS, { method: "POST", body, duplex: "half" } as RequestInit);
    expect(await refusal(readBody(request, 1000))).toMatchObject({ status: 400, code: "cut-off" });
  });

  it("may be missing", async () => {
    expect((await readBody(new Request(ADDRESS, { method: "POST" }), 10)).length).toBe(0);
  });
});

describe("a posted form", () => {
  it("keeps its fields in their order, repeated ones too", async () => {
    const form = await readForm(posted("a=1&b=%C3%A4+%26&a=2&c="));
    expect([...form]).toEqual([
      ["a", "1"],
      ["b", "ä &"],
      ["a", "2"],
      ["c", ""],
    ]);
  });

  it("brings files with their names and bytes", async () => {
    const sent = new FormData();
    sent.set("intent", "import");
    sent.set("file", new File(["tag,name\n"], "machines.csv", { type: "text/csv" }));
    const form = await readForm(new Request(ADDRESS, { method: "POST", body: sent }), { maxFileBytes: 1000 });
    const file = form.get("file") as File;
    expect([form.get("intent"), file.name, await file.text()]).toEqual(["import", "machines.csv", "tag,name\n"]);
  });

  it.each([
    ["JSON", "application/json", 415],
    ["plain text, which other sites can send without asking", "text/plain", 415],
    ["no kind at all", "", 415],
    ["parts without a boundary", "multipart/form-data", 400],
    ["parts that are not there", "multipart/form-data; boundary=xyz", 400],
  ])("that is %s is refused before it is parsed", async (_, type, status) => {
    expect(await refusal(readForm(posted('{"a":1}', type)))).toMatchObject({ status });
  });

  it("says its kind in capitals and with parameters as well", async () => {
    const form = await readForm(posted("a=1", "Application/X-WWW-Form-URLencoded; charset=UTF-8"));
    expect(form.get("a")).toBe("1");
  });

  it("of thousands of fields is refused by their number, however short it is", async () => {
    const refused = await refusal(readForm(posted("a&".repeat(2001))));
    expect(refused).toMatchObject({ status: 413, code: "too-many-fields" });
    expect((await readForm(posted("a=1&".repeat(2000)))).getAll("a")).toHaveLength(2000);
  });

  it("of thousands of parts too", async () => {
    const part = '--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n1\r\n';
    const body = `${part.repeat(2100)}--x--\r\n`;
    const refused = await refusal(readForm(posted(body, "multipart/form-data; boundary=x"), { maxFileBytes: 1e6 }));
    expect(refused).toMatchObject({ status: 413, code: "too-many-fields" });
  });

  it("without a file has the usual size, with one the file's", async () => {
    const long = `a=${"x".repeat(300 * 1024)}`;
    expect(await refusal(readForm(posted(long)))).toMatchObject({ status: 413 });
    expect((await readForm(posted(long), { maxFileBytes: 300 * 1024 })).get("a")).toHaveLength(300 * 1024);
  });
});

describe("JSON from outside", () => {
  it("is what JSON.parse makes of it, as long as it is of any size we read", () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 8 }), (value) => {
        const text = JSON.stringify(value);
        expect(readJson(text, 100_000)).toEqual(JSON.parse(text));
      }),
    );
  });

  it.each([
    ["deep lists", "[".repeat(41) + "]".repeat(41)],
    ["deep objects", '{"a":'.repeat(41) + "1" + "}".repeat(41)],
    ["many values", `[${"1,".repeat(200)}1]`],
    ["many names", `{${Array.from({ length: 150 }, (_, i) => `"a${i}":1`).join(",")}}`],
  ])("of %s is refused before it is parsed", (_, text) => {
    expect(() => readJson(text, 199)).toThrow(expect.objectContaining({ status: 413, code: "too-much" }) as Error);
  });

  it("counts what stands in a text as text", () => {
    const text = JSON.stringify({ note: `${"[{,:".repeat(500)}\\"[[`, other: "\\" });
    expect(readJson(text, 10)).toEqual(JSON.parse(text));
  });

  it("that is none is told as none", () => {
    for (const text of ["", "{", "[1,]", "nil", '"open'])
      expect(() => readJson(text, 100)).toThrow(expect.objectContaining({ status: 400, code: "not-json" }) as Error);
  });

  it("as deep as may be is read", () => {
    expect(readJson("[".repeat(40) + "]".repeat(40), 10)).toEqual(JSON.parse("[".repeat(40) + "]".repeat(40)));
  });
});
