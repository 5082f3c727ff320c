// The service worker: keeps the application's own files, so that every room opens while the server is away. What the
// kitchen holds is never kept here: that is asked of the server each time.

import { matchPrecache, type PrecacheEntry, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkOnly } from "workbox-strategies";

// The build writes the names of all files in its place.
declare const self: Window & { __FILES: PrecacheEntry[] };
const FIRST = "/index.html";

precacheAndRoute(self.__FILES);
// A page comes from the server while it is there, so that a renewed application is seen at once; else what is kept.
const page = new NetworkOnly({
  networkTimeoutSeconds: 3,
  plugins: [
    {
      fetchDidSucceed: async ({ response }) => {
        // Something between here and the server that says that it is away.
        if (!response.ok) throw new Error(`the server answers ${response.status}`);
        return response;
      },
      handlerDidError: () => matchPrecache(FIRST),
    },
  ],
});
registerRoute(new NavigationRoute(page, { denylist: [/^\/api\//] }));
