import { describe, expect, it } from 'vitest'
import type { Views } from '../api/client'
import { sewingStep as step, sewnStretch as stretch } from '../testing/answers'
import { bobbinAfter, clock, doneLines, doneOf, nextStop, runsOut, sewnUntil } from './machine'

describe('where a thread broke', () => {
  it('keeps what was sewn up to there', () => {
    const { sewn, at } = sewnUntil(step(), 50)
    expect(sewn).toEqual([stretch(4, 0, 30), stretch(4, 30, 50)])
    expect(at).toEqual([30, 20])
  })
  it('counts from the other end where the line is sewn backwards', () => {
    const back = step({ points: [[70, 0, 0, 0]], sewn: [stretch(4, 10, 80, true)], start: [70, 0] })
    expect(sewnUntil(back, 20)).toEqual({ sewn: [stretch(4, 60, 80, true)], at: [50, 0] })
  })
  it('keeps nothing at the very start, and all at the end', () => {
    expect(sewnUntil(step(), 0)).toEqual({ sewn: [], at: [0, 0] })
    expect(sewnUntil(step(), 70).sewn).toEqual(step().sewn)
  })
})

describe('the bobbin', () => {
  const bobbin = { left: 1000, per_mm: 2, per_thread: 300 }
  const steps = [step({ kind: 'begin', length_mm: 0 }), step({ length_mm: 100, stops: true }), step({ kind: 'begin', length_mm: 0 }), step({ length_mm: 150 })]
  it('is taken of by way and by tails', () => {
    expect(bobbinAfter(bobbin, steps.slice(0, 2))).toBe(500)
    expect(bobbinAfter(bobbin, [])).toBe(1000)
  })
  it('runs out on a line, and is better changed at the thread stop before', () => {
    expect(runsOut(bobbin, steps)).toEqual({ after: 3, stop: 2 })
    expect(runsOut({ ...bobbin, left: 400 }, steps)).toEqual({ after: 1, stop: undefined })
    expect(runsOut({ ...bobbin, left: 9000 }, steps)).toBeUndefined()
  })
})

describe('a step that is done', () => {
  it('tells what was sewn, where the needle is then and how far it went, each time with an id of its own', () => {
    const one = doneOf(step(), '2-2')
    expect(one).toMatchObject({ kind: 'sewn', place: '2-2', at: [35, 40], length_mm: 75, freehand: false, sewn: step().sewn })
    expect(doneOf(step({ also_sewn: [stretch(9, 0, 5)] }), '2-2').sewn).toEqual([...step().sewn, stretch(9, 0, 5)])
    expect(doneOf(step(), '2-2').id).not.toBe(one.id)
    expect(one.id).toMatch(/^[A-Za-z0-9-]{6,40}$/)
    expect(doneOf(step({ kind: 'begin', sewn: [] }), '2-2').kind).toBe('begun')
    expect(doneOf(step({ kind: 'go', sewn: [] }), '2-2').kind).toBe('gone')
  })
  it('stands before those that the server knows', () => {
    const here = { recent: [{ event: 'e', words: ['Star, line 1'], at: [1, 1], sewn: [stretch(0, 0, 9)] }] } as unknown as Views['SewHere']
    expect(doneLines(here, [step({ kind: 'begin' }), step({ sewn: [stretch(7, 0, 9)] }), step()]).map((one) => one.words[0])).toEqual(['Star, line 5', 'Star, line 8', 'Star, line 1'])
  })
  it('says when the thread ends next', () => {
    expect(nextStop([step(), step({ number: 9, stops: true })])?.number).toBe(9)
    expect(nextStop([step()])).toBeUndefined()
  })
})

it('tells time in minutes, then in hours', () => {
  expect([clock(0), clock(59), clock(2520), clock(4000), clock(7200), clock(-3)]).toEqual(['0 min', '0 min', '42 min', '1 h 6 min', '2 h', '0 min'])
})
