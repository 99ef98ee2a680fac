/** Read by an app process of a soak before anything else: says, when asked, for how long at most it was held. */
import { monitorEventLoopDelay } from "node:perf_hooks";

const delay = monitorEventLoopDelay({ resolution: 2 });
delay.enable();
process.on("message", (asked) => {
  if (asked !== "held") return;
  process.send({ held: delay.max / 1e6 });
  delay.reset();
});
process.channel?.unref();
