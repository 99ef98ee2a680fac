import { createConnection, createServer, type Server, type Socket } from "node:net";

/**
 * What happens on the way: all goes through, slowly, nothing in either direction with nobody told, what is asked arrives and its answer
 * does not, or every connection is cut.
 */
export type Way = "through" | "slow" | "silent" | "answers-lost" | "cut";

const SLOW_MS = 60;

/** A way to a port of this machine that can go bad. */
export class Wire {
  readonly port: number;
  readonly #server: Server;
  readonly #ends = new Set<Socket>();
  #way: Way = "through";

  private constructor(server: Server, port: number) {
    this.#server = server;
    this.port = port;
  }

  static async to(port: number): Promise<Wire> {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
    const wire = new Wire(server, (server.address() as { port: number }).port);
    server.on("connection", (near) => wire.#join(near, createConnection({ port, host: "127.0.0.1" })));
    return wire;
  }

  /** Ends of connections that are open on it. */
  get ends(): number {
    return this.#ends.size;
  }

  goes(way: Way): void {
    this.#way = way;
    if (way === "cut") for (const end of this.#ends) end.resetAndDestroy();
  }

  #join(near: Socket, far: Socket): void {
    for (const [one, other] of [
      [near, far],
      [far, near],
    ] as const) {
      this.#ends.add(one);
      // What was lost on the way stays lost: a connection that has once been silent is not whole again.
      let isLost = false;
      one.on("data", (bytes: Buffer) => {
        const way = this.#way;
        if (way === "cut") one.resetAndDestroy();
        isLost ||= way === "silent" || (way === "answers-lost" && one === far);
        if (isLost || other.destroyed) return;
        if (way === "slow") setTimeout(() => other.write(bytes), SLOW_MS);
        else other.write(bytes);
      });
      one.on("error", () => other.destroy());
      one.on("close", () => {
        this.#ends.delete(one);
        // That the other end is gone is not heard either.
        if (this.#way !== "silent") other.destroy();
        else setTimeout(() => other.destroy(), 60_000).unref();
      });
    }
  }

  close(): void {
    for (const end of this.#ends) end.destroy();
    this.#server.close();
  }
}
