/** The quilt at the machine as last seen, stored in the browser for a reload while Kenzet does not answer. */
import type { Unit, Views } from '../api/client'

export interface StoredQuilt {
  view: Views['QuiltView']
  unit: Unit
}

const STORE = 'kenzet.machine'
const place = (quilt: string) => `/kept/${encodeURIComponent(quilt)}`

/** Only one quilt is stored: the one being sewn. A browser without storage, or with full storage, stores none. */
export async function storeQuilt(quilt: string, what: StoredQuilt): Promise<void> {
  if (!('caches' in globalThis)) return
  try {
    const store = await caches.open(STORE)
    for (const old of await store.keys()) if (new URL(old.url).pathname !== place(quilt)) await store.delete(old)
    await store.put(place(quilt), Response.json(what))
  } catch (error) {
    if (!(error instanceof DOMException)) throw error
  }
}

/** The stored quilt, or undefined. */
export async function storedQuilt(quilt: string): Promise<StoredQuilt | undefined> {
  if (!('caches' in globalThis)) return undefined
  const found = await caches.match(place(quilt), { cacheName: STORE })
  return found && ((await found.json()) as StoredQuilt)
}
