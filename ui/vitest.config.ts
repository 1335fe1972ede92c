import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

const junit = process.env.VITEST_JUNIT

export default defineConfig({
  plugins: [vue()],
  test: {
    environment: 'jsdom',
    testTimeout: 20_000, // a busy machine
    include: ['src/**/*.test.ts'],
    server: { deps: { inline: ['vuetify'] } },
    reporters: junit ? ['default', 'junit'] : ['default'],
    outputFile: junit ? { junit } : {},
  },
})
