import { type ChildProcess, spawn } from "node:child_process";

import { must } from "../../core/must";
import { freePort, isAlive, sleep } from "../lib/system.mjs";

const last: (() => void)[] = [];

/** Done when the trial ends, however it ends. */
export function atTheEnd(what: () => void): void {
  if (last.length === 0) {
    process.on("exit", () => {
      for (const one of last) one();
    });
    for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => process.exit(1));
  }
  last.push(what);
}

/** A trial that breaks off leaves nothing running. */
export function endsWithUs(pid: () => number): void {
  atTheEnd(() => {
    if (pid() > 0 && isAlive(pid())) process.kill(pid(), "SIGKILL");
  });
}

/** An app process of a soak's own, started again after each of its ends. */
export class OwnServer {
  readonly base: string;
  #env: NodeJS.ProcessEnv;
  readonly #flags: readonly string[];
  #folder: string;
  #child: ChildProcess | null = null;

  private constructor(port: number, env: Record<string, string>, flags: readonly string[], folder: string) {
    this.#folder = folder;
    this.base = `http://127.0.0.1:${port}`;
    this.#env = { ...process.env, PORT: String(port), LOG_LEVEL: "fatal", SIGN_IN_PER_ADDRESS: "1000000", ...env };
    this.#flags = flags;
  }

  /** @param folder where the app is: another than ours is another version of it */
  static async start(env: Record<string, string>, flags: readonly string[] = [], folder = "."): Promise<OwnServer> {
    const server = new OwnServer(await freePort(7570), env, flags, folder);
    endsWithUs(() => server.#child?.pid ?? 0);
    await server.again();
    return server;
  }

  get process(): ChildProcess {
    return must(this.#child ?? undefined);
  }

  async again(): Promise<void> {
    this.#child = spawn(process.execPath, [...this.#flags, "server.js"], {
      env: this.#env,
      cwd: this.#folder,
      stdio: ["ignore", "inherit", "inherit", "ipc"],
    });
    for (let i = 0; i < 600; i++) {
      const answer = await fetch(`${this.base}/readyz`).catch(() => null);
      if (answer?.ok) return;
      // With its database gone it ends by itself, and is started again.
      if (this.process.exitCode !== null) return this.again();
      await sleep(100);
    }
    throw new Error("The app did not come up.");
  }

  /** Puts another version, or another place of the data, in its stead. */
  async change(env: Record<string, string>, folder: string): Promise<void> {
    await this.end("SIGTERM");
    this.#env = { ...this.#env, ...env };
    this.#folder = folder;
    await this.again();
  }

  /** Ends it without warning, or asks it to end. */
  async end(signal: "SIGKILL" | "SIGTERM"): Promise<void> {
    const child = this.process;
    if (child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await gone;
  }
}

/** What a page sends, as a signed-in person, to one of the processes that answer. */
export class Visitor {
  readonly #bases: readonly string[];
  readonly #patienceMs: number;
  #at: number;
  #cookie = "";

  /** @param patienceMs how long an answer is waited for */
  constructor(bases: string | readonly string[], at = 0, patienceMs = 20_000) {
    this.#patienceMs = patienceMs;
    this.#bases = typeof bases === "string" ? [bases] : bases;
    this.#at = at % this.#bases.length;
  }

  get base(): string {
    return must(this.#bases[this.#at]);
  }

  get cookie(): string {
    return this.#cookie;
  }

  /** Asks the next process from now on. */
  goOn(): void {
    this.#at = (this.#at + 1) % this.#bases.length;
  }

  /** The same person on another device, which asks the next process. */
  elsewhere(): Visitor {
    const other = new Visitor(this.#bases, this.#at + 1, this.#patienceMs);
    other.#cookie = this.#cookie;
    return other;
  }

  /** @returns whether there was one */
  takeCookie(answer: Response): boolean {
    const cookie = answer.headers.getSetCookie().find((one) => one.startsWith("hound_session="));
    if (cookie) this.#cookie = must(cookie.split(";")[0]);
    return cookie !== undefined;
  }

  async signIn(name: string, password: string): Promise<void> {
    const answer = await this.post("/sign-in", new URLSearchParams({ signIn: name, password }));
    if (!this.takeCookie(answer)) throw new Error(`${name} could not sign in: ${answer.status}`);
  }

  get(path: string): Promise<Response> {
    return fetch(this.base + path, {
      headers: { Cookie: this.#cookie },
      signal: AbortSignal.timeout(this.#patienceMs),
    });
  }

  post(path: string, body: URLSearchParams | string, headers: Record<string, string> = {}): Promise<Response> {
    return fetch(this.base + path, {
      method: "POST",
      redirect: "manual",
      signal: AbortSignal.timeout(this.#patienceMs),
      headers: {
        Origin: this.base,
        Cookie: this.#cookie,
        "Content-Type": typeof body === "string" ? "application/json" : "application/x-www-form-urlencoded",
        ...headers,
      },
      body,
    });
  }
}
