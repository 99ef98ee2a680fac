export interface Told<Result> {
  done?: number;
  total?: number;
  result?: Result;
  fault?: string;
}

/** The lines of JSON of an answer that comes while its work goes on; what is cut off in the middle of a line is no line. */
export async function* linesOf<Result>(body: ReadableStream<Uint8Array>): AsyncGenerator<Told<Result>> {
  const text = new TextDecoder();
  const reader = body.getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + text.decode(value, { stream: true })).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) yield JSON.parse(line) as Told<Result>;
  }
}
