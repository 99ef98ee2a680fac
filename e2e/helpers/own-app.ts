import { spawn } from "node:child_process";

import { freePort, sleep } from "../../scripts/lib/system.mjs";

/** The app's process, over the same database as the other browser tests: several processes over one database is normal. */
export async function startApp(env: Record<string, string>, wanted?: number) {
  const port = wanted ?? (await freePort(7490));
  const child = spawn(process.execPath, ["server.js"], {
    env: { ...process.env, PORT: String(port), LOG_LEVEL: "info", ...env },
  });
  let output = "";
  child.stdout.on("data", (chunk: Buffer) => (output += chunk.toString()));
  child.stderr.on("data", (chunk: Buffer) => (output += chunk.toString()));
  const exited = new Promise<number | null>((resolve) => child.once("exit", resolve));
  return { child, exited, url: `http://127.0.0.1:${port}`, output: () => output };
}

export async function untilReady(url: string): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const ok = await fetch(`${url}/readyz`).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return;
    await sleep(100);
  }
  throw new Error("the app did not come up");
}
