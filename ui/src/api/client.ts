/** The only fetch: typed calls to the app's own API, every failure a `Problem`. */
import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Views = components['schemas']
export type Unit = 'in' | 'mm'
export type Words = (string | Views['Shown'])[]

/** What went wrong, in a sentence, with the field it is about. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field = '',
  ) {
    super(message)
  }
}

const client = createClient<paths>({ baseUrl: '/' })

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The data of an answer. Throws `Problem`; an aborted call throws as the browser does. */
async function told<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new Problem(0, 'Kenzet does not answer. Is it still running where you started it?')
  }
  if (answer.data !== undefined) return answer.data
  const said = answer.error as { detail?: string; field?: string } | undefined
  throw new Problem(answer.response.status, said?.detail ?? 'Something went wrong here.', said?.field)
}

/** A file is sent as it is. */
const asItIs = (file: Blob) => ({ body: file as never, bodySerializer: (body: unknown) => body as Blob, headers: { 'Content-Type': 'application/octet-stream' } })

const at = (quilt: string) => ({ path: { quilt } })

export const api = {
  home: () => told(client.GET('/api/home')),
  addQuilts: (body: Partial<Views['NewQuilts']>) => told(client.POST('/api/quilts', { body: body as Views['NewQuilts'] })),
  top: (quilt: string, unit: Unit) =>
    told(client.GET('/api/quilts/{quilt}/top', { params: { ...at(quilt), query: { unit } } })),
  pick: (quilt: string, body: Views['PickRequest']) =>
    told(client.POST('/api/quilts/{quilt}/pick', { params: at(quilt), body })),
  cutPoints: (quilt: string, body: Partial<Views['PointsRequest']>) =>
    told(client.POST('/api/quilts/{quilt}/cut-points', { params: at(quilt), body: body as Views['PointsRequest'] })),
  cut: (quilt: string, body: Views['CutRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/cut', { params: at(quilt), body, signal })),
  meet: (quilt: string, body: Views['MeetRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/meet', { params: at(quilt), body, signal })),
  recipes: () => told(client.GET('/api/recipes')),
  keepRecipe: (body: Views['KeepRecipe']) => told(client.POST('/api/recipes', { body })),
  forgetRecipe: (body: Views['RecipeName']) => told(client.POST('/api/recipes/forget', { body })),
  bringRecipes: (body: Views['BringRecipes']) => told(client.POST('/api/recipes/bring', { body })),
  gallery: (quilt: string, body: Views['ZoneRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/gallery', { params: at(quilt), body, signal })),
  variants: (quilt: string, body: Views['ZoneRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/variants', { params: at(quilt), body, signal })),
  blockDrawing: (quilt: string, block: string, unit: Unit) =>
    told(client.GET('/api/quilts/{quilt}/blocks/{block}/drawing', { params: { path: { quilt, block }, query: { unit } } })),
  readDrawing: (file: File, width: string, unit: Unit) =>
    told(client.POST('/api/read-drawing', { params: { query: { name: file.name, width, unit } }, ...asItIs(file) })),
  addPhoto: (file: File) => told(client.POST('/api/photos', asItIs(file))),
  photo: (id: string) => told(client.GET('/api/photos/{photo}', { params: { path: { photo: id } } })),
  photoUrl: (id: string) => `/api/photos/${id}.jpg`,
  swatch: (file: File) => told(client.POST('/api/swatch', asItIs(file))),
  copy: (quilt: string) => told(client.POST('/api/quilts/{quilt}/copy', { params: at(quilt), body: {} as never })),
  setState: (quilt: string, state: Views['StateRequest']['state']) =>
    told(client.PUT('/api/quilts/{quilt}/state', { params: at(quilt), body: { state } })),
  setUnit: (unit: Unit) => told(client.PUT('/api/unit', { body: { unit } })),
  quilt: (quilt: string, unit: Unit) =>
    told(client.GET('/api/quilts/{quilt}', { params: { ...at(quilt), query: { unit } } })),
  plan: (quilt: string, body: Views['PlanRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/plan', { params: at(quilt), body, signal })),
  ruler: (quilt: string, body: Views['RulerRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/ruler', { params: at(quilt), body, signal })),
  bench: (quilt: string, body: Views['BenchRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/bench', { params: at(quilt), body, signal })),
  layRuler: (quilt: string, body: Views['LayRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/bench/lay', { params: at(quilt), body, signal })),
  curve: (quilt: string, body: Views['CurveRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/curve', { params: at(quilt), body, signal })),
  marks: (quilt: string, body: Views['MarksRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/marks', { params: at(quilt), body, signal })),
  table: (quilt: string, body: Partial<Views['TableRequest']>) =>
    told(client.POST('/api/quilts/{quilt}/table', { params: at(quilt), body: body as Views['TableRequest'] })),
  prep: (quilt: string) => told(client.POST('/api/quilts/{quilt}/prep', { params: at(quilt), body: {} as never })),
  route: (quilt: string, body: Views['RouteOrQuickRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/route', { params: at(quilt), body, signal })),
  exit: (quilt: string, body: Views['RouteRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/route/exit', { params: at(quilt), body, signal })),
  longer: (quilt: string, body: Views['RouteRequest']) => told(client.POST('/api/quilts/{quilt}/route/longer', { params: at(quilt), body })),
  longerSoFar: (quilt: string, unit: Unit, number: number) => told(client.GET('/api/quilts/{quilt}/route/longer', { params: { ...at(quilt), query: { unit, number } } })),
  stopLonger: (quilt: string, body: Views['LongerQuery']) => told(client.POST('/api/quilts/{quilt}/route/longer/stop', { params: at(quilt), body })),
  sewing: (quilt: string, body: Views['SewingRequest']) =>
    told(client.POST('/api/quilts/{quilt}/sewing', { params: at(quilt), body })),
  follow: (quilt: string) => told(client.GET('/api/quilts/{quilt}/machine', { params: at(quilt) })),
  sewingTold: (quilt: string, body: Views['ToldRequest']) =>
    // outlives the page: the last line before a lid is closed is still told
    told(client.POST('/api/quilts/{quilt}/sewing/events', { params: at(quilt), body, keepalive: JSON.stringify(body).length < 50_000 })),
  things: (unit: Unit) => told(client.GET('/api/things', { params: { query: { unit } } })),
  keepThing: (body: Partial<Views['ThingRequest']>, signal?: AbortSignal) => told(client.POST('/api/things', { body: body as Views['ThingRequest'], signal })),
  removeThing: (key: string, unit: Unit) => told(client.POST('/api/things/{key}/remove', { params: { path: { key } }, body: { unit } })),
  readStrip: (key: string, body: Partial<Views['StripRequest']>) => told(client.POST('/api/things/{key}/strip', { params: { path: { key } }, body: body as Views['StripRequest'] })),
  bringThings: (file: Blob, unit: Unit) => told(client.POST('/api/things/bring', { params: { query: { unit } }, ...asItIs(file) })),
  kitFile: (kind: 'json' | 'csv') => `/api/things/kit.${kind}`,
  kit: (quilt: string, body: Views['KitRequest'], signal: AbortSignal) =>
    told(client.POST('/api/quilts/{quilt}/kit', { params: at(quilt), body, signal })),
  change: (quilt: string, body: Views['ChangeRequest']) =>
    // outlives the page: what was tried a moment before a reload is still kept
    told(client.POST('/api/quilts/{quilt}/changes', { params: at(quilt), body, keepalive: true })),
  undo: (quilt: string, version: number) =>
    told(client.POST('/api/quilts/{quilt}/undo', { params: at(quilt), body: { version } })),
  redo: (quilt: string, version: number) =>
    told(client.POST('/api/quilts/{quilt}/redo', { params: at(quilt), body: { version } })),
  jobSheet: (quilt: string, query: Record<string, string>) => `/api/quilts/${quilt}/job.pdf?${new URLSearchParams(query)}`,
  routeFile: (quilt: string, number: number, unit: Unit) => `/api/quilts/${quilt}/route.svg?${new URLSearchParams({ number: String(number), unit })}`,
  planFile: (quilt: string) => `/api/quilts/${quilt}/plan.json`,
  /** The address of a mark sheet or of a table of it, for a link. */
  sheet: (quilt: string, zone: string, file: 'sheet.pdf' | 'sheet.svg' | 'sheet.dxf' | 'ticks.csv' | 'strokes.csv' | 'strip.pdf', query: Record<string, string>) =>
    `/api/quilts/${quilt}/zones/${zone}/${file}?${new URLSearchParams(query)}`,
  printers: (unit: Unit) => told(client.GET('/api/printers', { params: { query: { unit } } })),
  checkPrinter: (body: Views['CheckRequest']) => told(client.POST('/api/printers', { body })),
  forgetPrinter: (name: string, unit: Unit) => told(client.POST('/api/printers/forget', { body: { name, unit } })),
  checkPage: (name: string, paper: string, unit: Unit) => `/api/printer-check.pdf?${new URLSearchParams({ name, paper, unit })}`,
}
