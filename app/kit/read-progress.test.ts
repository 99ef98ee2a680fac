import { linesOf } from "./read-progress";

const streamOf = (chunks: Uint8Array[]): ReadableStream<Uint8Array> =>
  new ReadableStream({
    start(controller) {
      for (const one of chunks) controller.enqueue(one);
      controller.close();
    },
  });

it("reads lines however they are cut, letters of several bytes too; half a line at the end is none", async () => {
  const bytes = new TextEncoder().encode('{"done":1,"total":3}\n{"result":"Käse"}\n{"done":');
  for (const size of [1, 7, 1000]) {
    const chunks = Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
      bytes.slice(i * size, (i + 1) * size),
    );
    const seen: unknown[] = [];
    for await (const line of linesOf(streamOf(chunks))) seen.push(line);
    expect(seen).toEqual([{ done: 1, total: 3 }, { result: "Käse" }]);
  }
});
