import 'vuetify/styles/core'
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource/young-serif'
import './look.css'

import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import App from './App.vue'
import HomePage from './features/shell/HomePage.vue'

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'home', component: HomePage },
    { path: '/quilt/:quilt/top', name: 'top', component: () => import('./features/top/TopStation.vue') },
    { path: '/quilt/:quilt/fills', name: 'fills', component: () => import('./features/fills/FillsStation.vue') },
    { path: '/quilt/:quilt/balance', name: 'balance', component: () => import('./features/balance/BalanceStation.vue') },
    { path: '/quilt/:quilt/kit', name: 'kit', component: () => import('./features/kit/KitStation.vue') },
    { path: '/quilt/:quilt/bench', name: 'bench', meta: { station: 'kit' }, component: () => import('./features/bench/BenchStation.vue') },
    { path: '/quilt/:quilt/marks', name: 'marks', component: () => import('./features/marks/MarksStation.vue') },
    { path: '/quilt/:quilt/table', name: 'table', meta: { station: 'marks' }, component: () => import('./features/marks/TableStation.vue') },
    { path: '/quilt/:quilt/stitch', name: 'stitch', component: () => import('./features/stitch/StitchStation.vue') },
    { path: '/quilt/:quilt/machine', name: 'machine', meta: { station: 'stitch', alone: true }, component: () => import('./features/stitch/MachineStation.vue') },
    { path: '/quilt/:quilt/log', name: 'log', component: () => import('./features/log/LogStation.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    defaultTheme: 'day',
    themes: {
      day: {
        dark: false,
        colors: {
          background: '#F3EDE0', surface: '#FFFCF6', primary: '#2B3A67', secondary: '#5C6470',
          error: '#A8392C', success: '#3F6B56', warning: '#B9820F',
          'on-background': '#1E2733', 'on-surface': '#1E2733',
        },
      },
    },
  },
  defaults: {
    VBtn: { variant: 'text', ripple: false, class: 'text-none' },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
  },
})

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
