import { randomUUID } from "node:crypto";

import { dropLease, takeLease } from "~/kit/server/leases.server";
import { logError } from "~/kit/server/log.server";
import { pollGateway } from "~/outside/gateway.server";

const LEASE = "gateway-poll";
const LEASE_MS = 60_000;
const EVERY_MS = Number(process.env.GATEWAY_EVERY_MS ?? 30_000);
/** Soon again while the gateway has more than one answer holds. */
const SOON_MS = 200;

/**
 * Polls the gateway of the server's configuration, in one process at a time. The address comes from there alone: nothing
 * a person types is ever fetched.
 *
 * @returns stops it, after the running poll
 */
export function startGatewayPolling(url: string): () => Promise<void> {
  const holder = randomUUID();
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let running: Promise<void> = Promise.resolve();
  const poll = async (): Promise<void> => {
    let wait = EVERY_MS;
    try {
      if (await takeLease(LEASE, holder, LEASE_MS, new Date())) {
        const { outcome, more } = await pollGateway(url, new Date());
        if (outcome === "ok" && more) wait = SOON_MS;
      }
    } catch (error) {
      logError(`Gateway: ${(error as Error).message}`);
    }
    if (!stopped) schedule(wait);
  };
  const schedule = (wait: number): void => {
    timer = setTimeout(() => {
      running = poll();
    }, wait);
    timer.unref();
  };
  schedule(SOON_MS);
  return async () => {
    stopped = true;
    clearTimeout(timer);
    await running;
    await dropLease(LEASE, holder).catch(() => undefined);
  };
}
