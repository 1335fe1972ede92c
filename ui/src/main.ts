/** First the language, then the pages: some texts are looked up while they are loaded. */
import { api } from './api/client'
import { ENGLISH, speak } from './texts'

// a browser without workers needs the server for a reload
if (import.meta.env.PROD && 'serviceWorker' in navigator) window.addEventListener('load', () => void navigator.serviceWorker.register('/worker.js').catch(() => undefined))

const { lang } = document.documentElement
if (lang !== ENGLISH) speak(lang, await api.texts().then((view) => view.texts, () => ({})))
await import('./app')
