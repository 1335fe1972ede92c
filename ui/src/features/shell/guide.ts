/** The pages of docs/guide, in reading order, as shown in the help. */
import { marked } from 'marked'
import { tr } from '../../texts'

const texts = import.meta.glob<string>('../../../../docs/guide/*.md', { query: '?raw', import: 'default' })
const pictures = import.meta.glob<string>('../../../../docs/screenshots/*.png', { query: '?url', import: 'default' })
const named = <T>(found: Record<string, T>) => new Map(Object.entries(found).map(([path, one]) => [path.split('/').at(-1)!, one]))
const pages = named(texts)
const shots = named(pictures)

export const PAGES = [
  ['begin', tr('Begin')], ['top', tr('Top')], ['fills', tr('Fills')], ['ruler', tr('The ruler')], ['balance', tr('Balance')], ['kit', 'Kit'], ['bench', tr('Bench')], ['marks', tr('Marks')], ['table', tr('Step by step')], ['stitch', tr('Stitch')], ['machine', 'Machine'], ['log', tr('Log')],
] as const
export type Page = (typeof PAGES)[number][0]
/** The page for a station; the first page if there is none. */
export const pageFor = (station: unknown): Page => PAGES.find(([key]) => key === station)?.[0] ?? 'begin'

/** A page as HTML: its title one level lower, its pictures from the build. The text is the product's own. */
export async function htmlOf(page: Page): Promise<string> {
  const text = (await pages.get(`${page}.md`)!()).replace(/^#/gm, '##')
  const shown = await Promise.all([...text.matchAll(/\.\.\/screenshots\/([\w-]+\.png)/g)].map(async ([path, name]) => [path, await shots.get(name!)?.()] as const))
  return marked.parse(shown.reduce((told, [path, url]) => told.replace(path, url ?? ''), text), { async: false })
}
