/** The only fetch: typed calls to the app's own API, every failure a `Problem`. */
import createClient from 'openapi-fetch'
import type { components, paths } from './schema'
import { tr } from '../texts'

export type Views = components['schemas']
export type Unit = 'in' | 'mm'
export type Words = (string | Views['Shown'])[]
/** The direction of the light on the quilted cloth. */
export type Light = NonNullable<NonNullable<paths['/api/quilts/{quilt}/relief.jpg']['get']['parameters']['query']>['light']>
/** A document in a request: its kind and whatever differs from the defaults. */
export type Sent<T> = T extends { kind: infer K } ? { kind: K } & Partial<Omit<T, 'kind'>> : Partial<T>
export type Change = Sent<NonNullable<Views['ChangeMade']['change']>>
/** One change, of the document or of its kit. */
export type Made = { change: Change } | { kit: Partial<Views['KitChange']> }

/** An error in a sentence, with its field. */
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
async function unwrap<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new Problem(0, tr('Kenzet does not answer. Is it still running where you started it?'))
  }
  if (answer.data !== undefined) return answer.data
  const said = answer.error as { detail?: string; field?: string } | undefined
  throw new Problem(answer.response.status, said?.detail ?? tr('Something went wrong in Kenzet.'), said?.field)
}

/** Sends a file as it is. */
const rawBody = (file: Blob) => ({ body: file as never, bodySerializer: (body: unknown) => body as Blob, headers: { 'Content-Type': 'application/octet-stream' } })

const params = (quilt: string) => ({ path: { quilt } })

export const api = {
  texts: () => unwrap(client.GET('/api/texts')),
  home: () => unwrap(client.GET('/api/home')),
  copies: () => unwrap(client.GET('/api/backups')),
  draft: (body: Views['WishRequest']) => unwrap(client.POST('/api/draft', { body })),
  blocks: () => unwrap(client.GET('/api/blocks')),
  addQuilts: (body: Partial<Views['NewQuilts']>) => unwrap(client.POST('/api/quilts', { body: body as Views['NewQuilts'] })),
  top: (quilt: string, unit: Unit) =>
    unwrap(client.GET('/api/quilts/{quilt}/top', { params: { ...params(quilt), query: { unit } } })),
  hitTest: (quilt: string, body: Views['PickRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/hit-test', { params: params(quilt), body })),
  cutPoints: (quilt: string, body: Partial<Views['PointsRequest']>) =>
    unwrap(client.POST('/api/quilts/{quilt}/cut-points', { params: params(quilt), body: body as Views['PointsRequest'] })),
  cut: (quilt: string, body: Views['CutRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/cut', { params: params(quilt), body, signal })),
  spacingFits: (quilt: string, body: Views['MeetRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/spacing-fits', { params: params(quilt), body, signal })),
  recipes: () => unwrap(client.GET('/api/recipes')),
  keepRecipe: (body: Views['KeepRecipe']) => unwrap(client.POST('/api/recipes', { body })),
  deleteRecipe: (name: string) => unwrap(client.DELETE('/api/recipes', { params: { query: { name } } })),
  importRecipes: (body: Views['BringRecipes']) => unwrap(client.POST('/api/recipes/import', { body })),
  swatches: (unit: Unit) => unwrap(client.GET('/api/swatches', { params: { query: { unit } } })),
  addSwatch: (quilt: string, body: Views['NewSwatch']) => unwrap(client.POST('/api/quilts/{quilt}/swatches', { params: params(quilt), body })),
  changeSwatch: (swatch: string, body: Views['ChangeSwatch']) => unwrap(client.POST('/api/swatches/{swatch}', { params: { path: { swatch } }, body })),
  deleteSwatch: (swatch: string, unit: Unit) => unwrap(client.DELETE('/api/swatches/{swatch}', { params: { path: { swatch }, query: { unit } } })),
  importSwatches: (file: Blob, unit: Unit) => unwrap(client.POST('/api/swatches/import', { params: { query: { unit } }, ...rawBody(file) })),
  swatchUrl: (swatch: string) => `/api/swatches/${swatch}/picture.jpg`,
  gallery: (quilt: string, body: Views['ZoneRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/gallery', { params: params(quilt), body, signal })),
  variants: (quilt: string, body: Views['ZoneRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/variants', { params: params(quilt), body, signal })),
  blockDrawing: (quilt: string, block: string, unit: Unit) =>
    unwrap(client.GET('/api/quilts/{quilt}/blocks/{block}/drawing', { params: { path: { quilt, block }, query: { unit } } })),
  readDrawing: (file: File, width: string, unit: Unit) =>
    unwrap(client.POST('/api/read-drawing', { params: { query: { name: file.name, width, unit } }, ...rawBody(file) })),
  addPhoto: (file: File) => unwrap(client.POST('/api/photos', rawBody(file))),
  photo: (id: string) => unwrap(client.GET('/api/photos/{photo}', { params: { path: { photo: id } } })),
  photoUrl: (id: string) => `/api/photos/${id}.jpg`,
  fabricColor: (file: File) => unwrap(client.POST('/api/fabric-color', rawBody(file))),
  copy: (quilt: string) => unwrap(client.POST('/api/quilts/{quilt}/copy', { params: params(quilt), body: {} as never })),
  setState: (quilt: string, state: Views['StateRequest']['state']) =>
    unwrap(client.PUT('/api/quilts/{quilt}/state', { params: params(quilt), body: { state } })),
  setUnit: (unit: Unit) => unwrap(client.PUT('/api/unit', { body: { unit } })),
  quilt: (quilt: string, unit: Unit) =>
    unwrap(client.GET('/api/quilts/{quilt}', { params: { ...params(quilt), query: { unit } } })),
  balance: (quilt: string, unit: Unit, reads: number, signal: AbortSignal) =>
    unwrap(client.GET('/api/quilts/{quilt}/balance', { params: { ...params(quilt), query: { unit, reads } }, signal })),
  tryPlace: (quilt: string, body: Views['TryRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/balance/try', { params: params(quilt), body })),
  log: (quilt: string, unit: Unit, signal: AbortSignal) =>
    unwrap(client.GET('/api/quilts/{quilt}/log', { params: { ...params(quilt), query: { unit } }, signal })),
  progress: (quilt: string) => unwrap(client.GET('/api/quilts/{quilt}/progress', { params: params(quilt) })),
  whatFits: (quilt: string, minutes: number, unit: Unit) =>
    unwrap(client.GET('/api/quilts/{quilt}/log/fits', { params: { ...params(quilt), query: { minutes, unit } } })),
  schedule: (quilt: string, query: { days: string; minutes: number; begin: string; by?: string; at: string; unit: Unit }, signal: AbortSignal) =>
    unwrap(client.GET('/api/quilts/{quilt}/schedule', { params: { ...params(quilt), query }, signal })),
  remark: (quilt: string, body: Views['RemarkRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/log/remarks', { params: params(quilt), body })),
  keepTape: (quilt: string, body: Views['TapeRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/log/measured', { params: params(quilt), body })),
  importLog: (quilt: string, file: Blob, unit: Unit) =>
    unwrap(client.POST('/api/quilts/{quilt}/log/import', { params: { ...params(quilt), query: { unit } }, ...rawBody(file) })),
  strikeRemark: (quilt: string, body: Views['StrikeRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/log/strike', { params: params(quilt), body })),
  inspections: (quilt: string, signal?: AbortSignal) =>
    unwrap(client.GET('/api/quilts/{quilt}/inspections', { params: params(quilt), signal })),
  inspect: (quilt: string, body: Views['InspectionRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/inspections', { params: params(quilt), body })),
  inspection: (quilt: string, inspection: string, unit: Unit) =>
    unwrap(client.GET('/api/quilts/{quilt}/inspections/{inspection}', { params: { path: { quilt, inspection }, query: { unit } } })),
  flatUrl: (quilt: string, inspection: string) => `/api/quilts/${quilt}/inspections/${inspection}/flat.jpg`,
  changeSide: (quilt: string, inspection: string, body: Views['ChangeSide']) =>
    unwrap(client.POST('/api/quilts/{quilt}/inspections/{inspection}/side', { params: { path: { quilt, inspection } }, body })),
  strikeInspection: (quilt: string, inspection: string) =>
    unwrap(client.POST('/api/quilts/{quilt}/inspections/{inspection}/strike', { params: { path: { quilt, inspection } }, body: {} as never })),
  propose: (quilt: string, body: Partial<Views['ProposalRequest']>, signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/proposals', { params: params(quilt), body: body as Views['ProposalRequest'], signal })),
  proposalFigures: (quilt: string, proposal: string) =>
    unwrap(client.GET('/api/quilts/{quilt}/proposals/{proposal}/figures', { params: { path: { quilt, proposal } } })),
  proposalFills: (quilt: string, proposal: string) =>
    unwrap(client.GET('/api/quilts/{quilt}/proposals/{proposal}', { params: { path: { quilt, proposal } } })),
  preview: (quilt: string, body: Views['PlanRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/preview', { params: params(quilt), body, signal })),
  ruler: (quilt: string, body: Views['RulerRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/ruler', { params: params(quilt), body, signal })),
  bench: (quilt: string, body: Views['BenchRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/bench', { params: params(quilt), body, signal })),
  layRuler: (quilt: string, body: Views['LayRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/bench/lay', { params: params(quilt), body, signal })),
  curve: (quilt: string, body: Views['CurveRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/curve', { params: params(quilt), body, signal })),
  marks: (quilt: string, body: Views['MarksRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/marks', { params: params(quilt), body, signal })),
  table: (quilt: string, body: Partial<Views['TableRequest']>) =>
    unwrap(client.POST('/api/quilts/{quilt}/table', { params: params(quilt), body: body as Views['TableRequest'] })),
  prep: (quilt: string) => unwrap(client.POST('/api/quilts/{quilt}/prep', { params: params(quilt), body: {} as never })),
  route: (quilt: string, body: Views['RouteOrQuickRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/route', { params: params(quilt), body, signal })),
  pinOptions: (quilt: string, body: Views['RouteRequest'], signal: AbortSignal) =>
    unwrap(client.POST('/api/quilts/{quilt}/route/pin-options', { params: params(quilt), body, signal })),
  search: (quilt: string, body: Views['RouteRequest']) => unwrap(client.POST('/api/quilts/{quilt}/route/search', { params: params(quilt), body })),
  searchSoFar: (quilt: string, unit: Unit, number: number) => unwrap(client.GET('/api/quilts/{quilt}/route/search', { params: { ...params(quilt), query: { unit, number } } })),
  stopSearch: (quilt: string, query: { unit: Unit; number: number }) => unwrap(client.DELETE('/api/quilts/{quilt}/route/search', { params: { ...params(quilt), query } })),
  sewing: (quilt: string, body: Views['SewingRequest']) =>
    unwrap(client.POST('/api/quilts/{quilt}/sewing', { params: params(quilt), body })),
  follow: (quilt: string) => unwrap(client.GET('/api/quilts/{quilt}/machine', { params: params(quilt) })),
  sendEvents: (quilt: string, body: Views['EventsRequest']) =>
    // outlives the page: the last line sewn before the lid is closed is still sent
    unwrap(client.POST('/api/quilts/{quilt}/sewing/events', { params: params(quilt), body, keepalive: JSON.stringify(body).length < 50_000 })),
  things: (unit: Unit) => unwrap(client.GET('/api/things', { params: { query: { unit } } })),
  keepThing: (body: Partial<Views['ThingRequest']>, signal?: AbortSignal) => unwrap(client.POST('/api/things', { body: body as Views['ThingRequest'], signal })),
  deleteThing: (key: string, unit: Unit) => unwrap(client.DELETE('/api/things/{key}', { params: { path: { key }, query: { unit } } })),
  readStrip: (key: string, body: Partial<Views['StripRequest']>) => unwrap(client.POST('/api/things/{key}/strip', { params: { path: { key } }, body: body as Views['StripRequest'] })),
  importThings: (file: Blob, unit: Unit) => unwrap(client.POST('/api/things/import', { params: { query: { unit } }, ...rawBody(file) })),
  kit: (quilt: string, unit: Unit, signal: AbortSignal) =>
    unwrap(client.GET('/api/quilts/{quilt}/kit', { params: { ...params(quilt), query: { unit } }, signal })),
  change: (quilt: string, body: Omit<Views['ChangeRequest'], 'changes' | 'views'> & { changes: ({ key: string; joins: boolean } & Made)[]; views: Partial<Views['ViewsWanted']> }) =>
    // outlives the page: a change made just before a reload is still sent
    unwrap(client.POST('/api/quilts/{quilt}/changes', { params: params(quilt), body: body as Views['ChangeRequest'], keepalive: true })),
  walk: (quilt: string, way: 'undo' | 'redo', body: Omit<Views['VersionRequest'], 'views'> & { views: Partial<Views['ViewsWanted']> }) =>
    unwrap(client.POST(`/api/quilts/{quilt}/${way}`, { params: params(quilt), body: body as Views['VersionRequest'] })),
  printers: (unit: Unit) => unwrap(client.GET('/api/printers', { params: { query: { unit } } })),
  checkPrinter: (body: Views['CheckRequest']) => unwrap(client.POST('/api/printers', { body })),
  deletePrinter: (name: string, unit: Unit) => unwrap(client.DELETE('/api/printers', { params: { query: { name, unit } } })),
}
