import { startTransition, StrictMode } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";

import { hearTime } from "~/sheet/log/server-clock";
import { holdRequests } from "~/shell/held-requests";
import { keepPagesAtHand } from "~/shell/pages-at-hand";

window.fetch = holdRequests(hearTime(window.fetch.bind(window)));

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <HydratedRouter />
    </StrictMode>,
  );
});

keepPagesAtHand();
