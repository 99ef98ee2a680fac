/**
 * The same drawn visits in a web worker of the browser: how many are proven optimal within a second, and whether the page
 * was ever kept from answering meanwhile (longest gap between two animation frames, tasks over 50 ms).
 */
import { createServer } from "node:http";
import { join } from "node:path";

import { chromium } from "@playwright/test";
import { build } from "esbuild";

import { readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { expandNested, placeGates, type Procedure, type VisitProblem } from "../core/index";
import { must } from "../core/must";
import { drawnVisit } from "../db/demo/drawn-visits";

const read = readProcedureFiles(shippedFolder());
const procedures: Procedure[] = read
  .filter((one) => one.family !== "any")
  .map((one) =>
    placeGates(expandNested(one, (id, version) => read.find((other) => other.id === id && other.version === version))),
  );
const small = Array.from({ length: 200 }, (_, seed) => drawnVisit(procedures, seed, { from: 2, to: 8 }, 40));
const large = Array.from({ length: 10 }, (_, seed) => drawnVisit(procedures, seed, { from: 20, to: 20 }, 1000));

const worker = `import { packVisit } from "${join(process.cwd(), "core/visit/pack-visit.ts")}";
self.onmessage = ({ data: { problems, timeLimitMs } }) => {
  postMessage(problems.map((problem) => {
    const began = performance.now();
    let provenAt = null;
    const { status, makespan, lowerBound } = packVisit(problem, { timeLimitMs, onProgress: (best, bound) => void (best <= bound && (provenAt = performance.now() - began)) });
    return { status, makespan, lowerBound, provenAt };
  }));
};`;
const { outputFiles } = await build({
  stdin: { contents: worker, resolveDir: process.cwd(), loader: "ts" },
  bundle: true,
  format: "esm",
  write: false,
  minify: true,
});
const server = createServer((request, response) => {
  response.writeHead(200, { "content-type": request.url === "/worker.js" ? "text/javascript" : "text/html" });
  response.end(request.url === "/worker.js" ? must(outputFiles[0]).text : "<!doctype html><title>Bench</title>");
});
await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
const address = server.address() as { port: number };
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu"],
});
const page = await browser.newPage();
await page.goto(`http://127.0.0.1:${address.port}/`);
// tsx keeps the names of functions by a helper that the page does not have.
await page.evaluate("globalThis.__name = (it) => it");

interface Measured {
  results: { status: string; makespan: number; lowerBound: number; provenAt: number | null }[];
  longTasks: number[];
  longestGap: number;
}

for (const [name, problems, timeLimitMs] of [
  ["200 visits up to 8 machines, 1 s each", small, 1000],
  ["10 visits of 20 machines, 5 s each", large, 5000],
] as [string, VisitProblem[], number][]) {
  const { results, longTasks, longestGap } = await page.evaluate(
    ({ problems, timeLimitMs }) =>
      new Promise<Measured>((resolve) => {
        const longTasks: number[] = [];
        new PerformanceObserver((list) => longTasks.push(...list.getEntries().map((entry) => entry.duration))).observe({
          type: "longtask",
        });
        let longestGap = 0;
        let last = performance.now();
        let going = true;
        const frame = (): void => {
          const now = performance.now();
          longestGap = Math.max(longestGap, now - last);
          last = now;
          if (going) requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
        const worker = new Worker("/worker.js", { type: "module" });
        worker.onmessage = ({ data }: MessageEvent<Measured["results"]>) => {
          going = false;
          resolve({ results: data, longTasks, longestGap });
        };
        worker.postMessage({ problems, timeLimitMs });
      }),
    { problems, timeLimitMs },
  );
  const proofs = results
    .flatMap((one) => (one.provenAt === null && one.status !== "optimal" ? [] : [one.provenAt ?? 0]))
    .sort((a, b) => a - b);
  const at = (share: number): string =>
    `${(proofs[Math.min(proofs.length - 1, Math.floor(share * proofs.length))] ?? NaN).toFixed(0)} ms`;
  const gaps = results
    .filter((one) => one.status !== "optimal")
    .map((one) => `${((100 * (one.makespan - one.lowerBound)) / one.lowerBound).toFixed(1)} %`);
  process.stdout.write(
    `\nIn the browser's worker: ${name}\n  proven ${results.filter((one) => one.status === "optimal").length} of ${results.length}; to the proof: median ${at(0.5)}, 95 % ${at(0.95)}, longest ${at(1)}${gaps.length > 0 ? `; gaps ${gaps.join(" ")}` : ""}\n` +
      `  the page meanwhile: ${longTasks.filter((one) => one > 50).length} tasks over 50 ms, longest gap between frames ${longestGap.toFixed(0)} ms\n`,
  );
}
await browser.close();
server.close();
