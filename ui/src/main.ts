/** First the language, then the pages: what they say at once is looked up as they are loaded. */
import { api } from './api/client'
import { ENGLISH, speak } from './texts'

// a browser that allows no worker goes without: then a reload needs the server
if (import.meta.env.PROD && 'serviceWorker' in navigator) window.addEventListener('load', () => void navigator.serviceWorker.register('/worker.js').catch(() => undefined))

const { lang } = document.documentElement
if (lang !== ENGLISH) speak(lang, await api.texts().then((view) => view.texts, () => ({})))
await import('./app')
