import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig, type Plugin } from 'vite'

const WORKER = 'worker.js'

/** Tells the worker which files to keep in the browser: all that was built, known by their content or by the name that it gave them. */
function keptFiles(): Plugin {
  let out = ''
  return {
    name: 'kept-files',
    apply: 'build',
    configResolved: (config) => void (out = join(config.root, config.build.outDir)),
    closeBundle() {
      const names = readdirSync(out, { recursive: true, encoding: 'utf8' }).filter((name) => /\.(js|css|html|svg|woff2)$/.test(name) && name !== WORKER)
      const files = names.sort().map((name) => ({ url: `/${name}`, revision: name.startsWith('assets/') ? null : createHash('sha256').update(readFileSync(join(out, name))).digest('hex').slice(0, 16) }))
      const worker = readFileSync(join(out, WORKER), 'utf8')
      if (!worker.includes('self.FILES') || /^(import|export)\b/m.test(worker)) throw new Error('the worker is not a script of its own')
      writeFileSync(join(out, WORKER), worker.replace('self.FILES', JSON.stringify(files)))
    },
  }
}

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), keptFiles()],
  build: {
    chunkSizeWarningLimit: 700,
    assetsInlineLimit: 0,
    rolldownOptions: {
      input: { index: 'index.html', worker: 'src/away/worker.ts' },
      output: { entryFileNames: (chunk) => (chunk.name === 'worker' ? WORKER : 'assets/[name]-[hash].js') },
    },
  },
})
