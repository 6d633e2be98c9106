// Keeps a card that was opened by a link, so that it opens again without network. Ticks are never kept here: they wait
// on the page.
"use strict";
var kept = "card";
self.addEventListener("install", function (event) {
  event.waitUntil(caches.open(kept).then(function (cache) { return cache.addAll(["./", "card.css", "card.js"]); }).then(function () { return self.skipWaiting(); }));
});
self.addEventListener("activate", function (event) { event.waitUntil(self.clients.claim()); });
self.addEventListener("fetch", function (event) {
  if (event.request.method !== "GET") {
    return;
  }
  event.respondWith(fetch(event.request).then(function (response) {
    if (response.ok) {
      var copy = response.clone();
      caches.open(kept).then(function (cache) { cache.put(event.request, copy); });
    }
    return response;
  }).catch(function () { return caches.match(event.request); }));
});
