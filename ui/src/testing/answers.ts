/** Typed answers of the app for tests: a test gives what matters to it, and the rest has defaults. */
import type { Views } from '../api/client'

type Some<T> = Partial<T>
export type Fill = Views['Card']['fill']

export const fill = (values: Record<string, unknown> = {}): Fill => ({ kind: 'lines', spacing: '3/4 in', angle: 45, ...values }) as Fill

export const field = (some: Some<Views['FieldView']> = {}): Views['FieldView'] => ({
  name: 'spacing', label: 'Spacing', help: '', control: 'length', text: '1 3/8', shown: figure(), empty: '', choices: [], presets: [], used: true, minor: false, theme: 'Shape', least: null, most: null, ...some,
})
export const figure = (some: Some<Views['Shown']> = {}): Views['Shown'] => ({ minus: false, whole: '1', num: 3, den: 8, hair: 0, unit: 'in', text: '1 3/8', ...some })

export const drawing = (some: Some<Views['DrawingView']> = {}): Views['DrawingView'] => ({ part: 'star', places: ['1-1'], layer: 0, lines: [], paths: [], hints: [], ...some })

export const zoneInfo = (some: Some<Views['ZoneInfo']> = {}): Views['ZoneInfo'] => ({
  key: 'a', name: 'Star points', part: 'star', patches: ['1'], shapes: [], occurs: 'one patch, in one block', fill: 'Straight lines', left_open: false, cut: false, on_top: false, stand_off: '', stands_off: false, drawings: [], ...some,
})

export const quiltView = (some: Some<Views['QuiltView']> = {}): Views['QuiltView'] => ({
  id: 'q', version: 1, name: 'Harbour', use: 'wall', size: [], width: 100, height: 100, undo: null, redo: null, fabrics: {}, parts: [], zones: [], ground: null, fills: [], totals: [], kit: {} as Views['Kit'], ...some,
})

export const touched = (some: Some<Views['Touched']> = {}): Views['Touched'] => ({
  version: 2, undo: 'a change', redo: null, name: 'Harbour', use: 'wall', size: [], width: 100, height: 100, fabrics: null, parts: null, zones: [], order: null, gone: [], ground: null, kit: null, totals: [], views: views(), ...some,
})
export const views = (some: Some<Views['Views']> = {}): Views['Views'] => ({ zone: null, marks: null, route: null, top: null, kit: null, faults: {}, ...some })

export const zoneView = (some: Some<Views['ZoneView']> = {}): Views['ZoneView'] => ({
  zone: 'a', place: '', where: '', times: 1, apart: [], here_apart: false, name: 'Star points', occurs: '', fill: fill(), layer: 0, over: '', cells: 'all', pins: [], fields: [], step: null, sum: null,
  offers: [], figures: [], own_ruler: '', sew_with: 'ruler foot', begin_other: false, second_first: false, orders: [], ends: [], alike: [], rows: [], known: [], gap: null, measuring: false, can_meet: false, features: [], slivers: [],
  drawings: [], edges: [], corners: [], totals: [], ...some,
})

export const topView = (some: Some<Views['TopView']> = {}): Views['TopView'] => ({
  arrangement: 'straight rows', columns: 1, rows: 1, use: 'wall', cells: [], fields: [], widths: [], heights: [], sash_width: null, border_widths: [], blocks: [], fabrics: [], tiles: [], doc: {}, ...some,
})
export const blockView = (some: Some<Views['BlockView']> = {}): Views['BlockView'] => ({
  key: 'star', name: 'Star', size: [], what: 'Star', laid: 1, width: 10, height: 10, patches: [], fields: [], roles: [], measured: [], warning: [], doc: {} as Views['Block'], ...some,
})

export const kitView = (some: Some<Views['KitView']> = {}): Views['KitView'] => ({
  kit: {} as Views['Kit'], slots: [], sew_with: 'ruler foot', fields: [], rulers: [], foot: 6.35, fault: '', sentence: [], changed: [], new: [], away: [], ...some,
})
export const thingView = (values: Record<string, unknown> = {}): Views['ThingView'] => ({
  key: 'foot', kind: 'ruler foot', label: 'Ruler foot', name: 'Foot', state: 'at hand', text: [], thing: { kind: 'ruler foot', ...values } as Views['ThingView']['thing'], fields: [], edges: [], history: [],
})

export const visit = (some: Some<Views['VisitView']> = {}): Views['VisitView'] => ({ place: '1-1', name: 'Star', at: [0, 0], middle: [5, 5], stop: false, way: [], share: 0, ...some })
export const routeView = (some: Some<Views['RouteView']> = {}): Views['RouteView'] => ({
  rows: [], visits: [visit()], fields: [], paces: [], doc: { stops: 5, pace: {}, pins: {}, turns: {}, avoided: [], ways: {} } as unknown as Views['Stitching'], notes: [], here: null, quick: false, ...some,
})
export const hereView = (some: Some<Views['HereView']> = {}): Views['HereView'] => ({
  place: '1-1', name: 'Star', occurs: '', number: 1, part: 'star', start: '', end: '', fault: '', cells: '', kept: '', turns: [], avoided: [], sentence: 'Begin at the left.', rows: [], legs: [], ...some,
})

export const marksView = (some: Some<Views['MarksView']> = {}): Views['MarksView'] => ({ by_ruler: true,
  zone: 'a', name: 'Star points', occurs: '', method: 'first lines', methods: [], chosen_by_her: false, drawn_too: 0, strokes: [], dots: [], signs: [], tools: [], tool: '', tool_words: [], laid: [], rounds: 0,
  round_is: 'Round', stands_for: 'sewn line', repeats: false, at_the_table: 0, edges: [], pages: 1, pages_words: '1 page', rows: [], note: [], caution: '', layers: [], layer: 0, drawings: [], totals: [], ...some,
})

export const benchEdge = (some: Some<Views['BenchEdge']> = {}): Views['BenchEdge'] => ({
  centre: null, dead: [], edge: [-100, 0, 100, 0], etched: [], grips: [], label: [], needle: [-100, -6.35, 100, -6.35], others: [], rings: [], straight: true, ...some,
})
export const benchView = (some: Some<Views['BenchView']> = {}): Views['BenchView'] => ({
  at: [50, 50], caution: '', corners: [], foot: 6.35, foot_name: 'Foot', foot_words: ['1/4'], hand: [], name: 'Star points', nudge: 0.5, place: '1-1', references: [], refused: '',
  rings: [[0, 0, 100, 0, 100, 100, 0, 100, 0, 0]], rulers: [{ key: 'long', name: 'Long', fault: '', edges: [benchEdge()] }, { key: 'bent', name: 'Bent', fault: 'It is broken.', edges: [] }], throat: 'right', times: 1, where: '', zone: 'a', ...some,
})

export const tableStep = (some: Some<Views['StepView']> = {}): Views['StepView'] => ({ kind: 'stroke', lay: [], begins: [], ends: [], figures: [], lines: [], dots: [], laid: [], turn: false, ...some })
export const tableView = (some: Some<Views['TableView']> = {}): Views['TableView'] => ({ done: 0, name: 'Star points', pins: '', steps: [], still_on: [], times: 1, zone: 'a', ...some })

export const sewnStretch = (line: number, begins: number, ends: number, reversed = false): Views['SewnStretch'] => ({ drawing: 'z.0.00000000', line, turn: 0, begins, ends, reversed })
export const sewingStep = (some: Some<Views['SewingStepView']> = {}): Views['SewingStepView'] => ({
  kind: 'line', number: 1, freehand: false, zone: 'Star', lay: [], sum: null, hand: [], legs: [], sew: [], then: [], short: [], travels: [], stops: false, ruler: [], hands: [], also_sewn: [],
  points: [[0, 0, 30, 0], [30, 0, 30, 40]], sewn: [sewnStretch(4, 0, 30), sewnStretch(4, 30, 70)], start: [0, 0], at: [35, 40], length_mm: 75, ...some,
})
export const sewHere = (some: Some<Views['SewHere']> = {}): Views['SewHere'] => ({ bulk: [], coming: [], done: [], left: 0, left_mm: 0, many: 9, number: 1, place: '1-1', recent: [], steps: [], stop: 0, where: 'Star, row 1, block 1', whole_mm: 0, ...some })
export const sewingView = (some: Some<Views['SewingView']> = {}): Views['SewingView'] => ({
  bobbin: { left: 90_000, per_mm: 1.2, per_thread: 200 }, caution: '', count: 0, ending: '', here: sewHere(), last: [], many: 1, notes: [], places: [], rest: 0, share: 0, skipped: 0, spots: [], tally: [], today: 0, unrested: 0, untouched: 0, whole_mm: 0, zones: [], ...some,
})
