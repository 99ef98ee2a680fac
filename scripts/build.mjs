/** `npm run build`: a production build of the present sources; `npm start` serves it. */
import { checkNode, ensureBuild, ensurePackages, say } from "./lib/prepare.mjs";

checkNode();
await ensurePackages();
say(`Built in ${await ensureBuild()}`);
