/** The quilt at the machine as last seen, stored in the browser for a reload while Kenzet does not answer. */
import type { Unit, Views } from '../api/client'

export interface Shelved {
  view: Views['QuiltView']
  unit: Unit
}

const SHELF = 'kenzet.machine'
const place = (quilt: string) => `/kept/${encodeURIComponent(quilt)}`

/** Only one quilt is stored: the one being sewn. A browser without storage, or with full storage, stores none. */
export async function shelve(quilt: string, what: Shelved): Promise<void> {
  if (!('caches' in globalThis)) return
  try {
    const shelf = await caches.open(SHELF)
    for (const old of await shelf.keys()) if (new URL(old.url).pathname !== place(quilt)) await shelf.delete(old)
    await shelf.put(place(quilt), Response.json(what))
  } catch (error) {
    if (!(error instanceof DOMException)) throw error
  }
}

/** The stored quilt, or undefined. */
export async function shelved(quilt: string): Promise<Shelved | undefined> {
  if (!('caches' in globalThis)) return undefined
  const found = await caches.match(place(quilt), { cacheName: SHELF })
  return found && ((await found.json()) as Shelved)
}
