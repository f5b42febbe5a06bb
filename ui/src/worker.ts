import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

/**
 * The service worker: keeps the application itself on the tablet, so that a bench opens without a
 * connection. What the studio says is not its affair; see api/kept.ts and api/outbox.ts.
 */
declare const self: {
  addEventListener(type: "message", heard: (event: { data: unknown }) => void): void;
  skipWaiting(): Promise<void>;
};
/** The files of the application with their revisions, listed when it is built. */
declare const FILES: { url: string; revision: string | null }[];

precacheAndRoute(FILES);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL("/index.html"), { denylist: [/^\/api\//] }));

// A newer application waits until whoever is at the tablet lets it in.
self.addEventListener("message", (event) => {
  if (event.data === "let in") void self.skipWaiting();
});
