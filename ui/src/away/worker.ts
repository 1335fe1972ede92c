/** Caches the pages themselves, so that a reload at the machine works while Kenzet does not answer. Requests to /api are never cached here. */
import { clientsClaim } from 'workbox-core'
import { cleanupOutdatedCaches, precacheAndRoute, PrecacheFallbackPlugin, type PrecacheEntry } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { NetworkOnly } from 'workbox-strategies'

/** `FILES` is filled in when the pages are built (vite.config.ts). */
declare const self: { FILES: PrecacheEntry[]; skipWaiting: () => Promise<void>; addEventListener: (when: 'install', does: () => void) => void }

const ANSWER_S = 5

self.addEventListener('install', () => void self.skipWaiting())
clientsClaim()
cleanupOutdatedCaches()
precacheAndRoute(self.FILES, { directoryIndex: '', cleanURLs: false })
// the server's own page if it answers, so that an update shows at once
const page = new NetworkOnly({ networkTimeoutSeconds: ANSWER_S, plugins: [new PrecacheFallbackPlugin({ fallbackURL: '/index.html' })] })
registerRoute(new NavigationRoute(page, { denylist: [/^\/api\//] }))
