import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import type { Linter } from 'eslint'
import pluginVue from 'eslint-plugin-vue'

/** A feature, which is a folder here, may use api, parts, canvas, state and itself, never another feature. */
const features = readdirSync(join(import.meta.dirname, 'src/features'))
const walls = features.map((own): Linter.Config => ({
  files: [`src/features/${own}/**`],
  rules: {
    'no-restricted-imports': [
      'error' as const,
      { patterns: features.filter((other) => other !== own).map((other) => ({ group: [`**/${other}/*`] })) },
    ],
  },
}))

export default defineConfigWithVueTs(
  { ignores: ['dist/**', 'src/api/schema.ts'] },
  pluginVue.configs['flat/recommended'],
  vueTsConfigs.recommended,
  {
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      // what a person reads comes from the catalogue; these are signs and units
      'vue/no-bare-strings-in-template': ['error', { allowlist: [...'·+−:‹›,×().“”=↶↷✕°', '”:', 'p', 'b', 't', 'r', 'm', '2 1/2', 'Kenzet', 'in'] }],
      'no-restricted-globals': ['error', { name: 'fetch', message: 'api/client.ts is the only fetch' }],
    },
  },
  { files: ['src/api/client.ts'], rules: { 'no-restricted-globals': 'off' } },
  ...walls,
)
