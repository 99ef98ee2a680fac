import { startTransition, StrictMode } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";

import { holdRequests } from "~/shell/held-requests";
import { keepPagesAtHand } from "~/shell/pages-at-hand";

window.fetch = holdRequests(window.fetch.bind(window));

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <HydratedRouter />
    </StrictMode>,
  );
});

keepPagesAtHand();
