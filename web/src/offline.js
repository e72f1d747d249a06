/** The service worker: the application's own files stay on the device, so that the runner opens in airplane mode. What the server knows is never kept here. */
const FILES = __FILES__;
const KEPT = "lucid-ridge-__MARK__";

self.addEventListener("install", (event) => {
  event.waitUntil(
    caches
      .open(KEPT)
      .then((cache) => cache.addAll(FILES))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener("activate", (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((name) => name !== KEPT).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

self.addEventListener("fetch", (event) => {
  const address = new URL(event.request.url);
  if (event.request.method !== "GET" || address.origin !== self.location.origin || address.pathname.startsWith("/api/"))
    return;
  if (event.request.mode === "navigate") {
    event.respondWith(fetch(event.request).catch(() => caches.match("/index.html")));
    return;
  }
  event.respondWith(caches.match(event.request).then((found) => found ?? fetch(event.request)));
});
