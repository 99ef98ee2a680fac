// Shows that a clock's time is up while another page is in front, and leads back to it. It keeps nothing and fetches nothing.
globalThis.addEventListener("install", () => globalThis.skipWaiting());
globalThis.addEventListener("activate", (event) => event.waitUntil(globalThis.clients.claim()));
globalThis.addEventListener("notificationclick", (event) => {
  event.notification.close();
  event.waitUntil(
    globalThis.clients.matchAll({ type: "window", includeUncontrolled: true }).then((pages) => {
      const [page] = pages;
      return page ? page.focus() : globalThis.clients.openWindow(event.notification.data?.to ?? "/round");
    }),
  );
});
