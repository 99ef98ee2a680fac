import { jobOf, readFile } from "~/kit/jobs/jobs.server";
import { Refusal } from "~/kit/refusal";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/bundle-file.route";
import { BUNDLE_KINDS } from "./bundle-schemas";

/** What a bundle came to, sent as it is read. */
export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const job = await jobOf(actorOf(context), params.bundleId);
    const file = job.files.find((one) => one.name === params.file);
    if (!file) throw new Refusal(404, "no-such-file", "This file is not there. See how far its bundle is.");
    const mime = Object.values(BUNDLE_KINDS).find((one) => one.file === file.name)?.mime ?? "application/octet-stream";
    const [stem, ending] = file.name.split(".");
    const name = `${stem}-${job.askedAt.toISOString().slice(0, 10)}.${ending}`;
    return new Response(readFile(job.id, file.name), {
      headers: {
        "Content-Type": mime,
        "Content-Length": String(file.bytes),
        "Content-Disposition": `${mime === "application/pdf" ? "inline" : "attachment"}; filename="${name}"`,
        "Cache-Control": "no-store, no-transform",
      },
    });
  });
}
