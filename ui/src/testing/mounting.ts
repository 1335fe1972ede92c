/** Mounts a component as the app does: with its stores, its buttons and a dummy router. The drawing itself is left out. */
import { mount, RouterLinkStub, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import type { Component } from 'vue'
import { routerKey } from 'vue-router'
import { createVuetify } from 'vuetify'
import { VApp, VBtn, VDialog } from 'vuetify/components'
import { api, type Views } from '../api/client'
import { useExports } from '../state/exports'
import { useQuilt } from '../state/quilt'
import { quiltView, touched, views } from './answers'

/** A fresh app with a quilt open. */
export function opened(some: Partial<Views['QuiltView']> = {}) {
  setActivePinia(createPinia())
  const quilt = useQuilt()
  quilt.id = 'q'
  quilt.view = quiltView(some)
  useExports().list = ['sheet-pdf', 'job-pdf', 'route-svg', 'plan-json', 'strip-pdf', 'printer-check', 'kit-json', 'kit-csv', 'recipes-json'].map((key) => ({ key, label: key, url: `/api/${key}`, of_sheet: false, needs: '' }))
  return quilt
}

export function mounted(part: Component, props: Record<string, unknown> = {}, stubs: Record<string, unknown> = {}): VueWrapper {
  return mount(part, {
    props,
    global: {
      plugins: [createVuetify({ components: { VApp, VBtn, VDialog } })],
      stubs: { QuiltCanvas: true, RouterLink: RouterLinkStub, ...stubs },
      provide: { [routerKey as symbol]: { push: async () => {}, replace: async () => {} } },
      mocks: { $route: { params: { quilt: 'q' }, query: {}, name: 'fills', meta: {} } },
    },
  })
}

export const byId = (part: VueWrapper, id: string) => part.find(`[data-testid="${id}"]`)

/** The changes that were sent, in order; each is answered with `answer` on the next version. */
export function changes(answer: (change: Record<string, unknown>, wanted: Partial<Views['ViewsWanted']>) => Partial<Views['Views']> = () => ({})) {
  const sent: Record<string, unknown>[] = []
  vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
    const [one] = body.changes as unknown as { change?: Record<string, unknown>; kit?: Record<string, unknown> }[]
    const what = one!.change ?? { kit: one!.kit }
    sent.push(what)
    return touched({ version: body.version + 1, views: views(answer(what, body.views)) })
  })
  return sent
}

/** Promises that a test resolves, in the order in which they were requested. */
export function answers<T>() {
  const waiting: { done: (value: T) => void; fail: (error: unknown) => void }[] = []
  const ask = () => new Promise<T>((done, fail) => waiting.push({ done, fail }))
  return { ask, waiting }
}
