import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Problem } from '../api/client'
import { inOrder, newest } from './unsent'

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
})
afterEach(() => void vi.useRealTimers())

describe('the newest that has to be sent', () => {
  it('is kept while the server is away, and only the last is sent when it is back', async () => {
    let away = true
    const sent: number[] = []
    const one = newest<number>('steps', async (value) => {
      if (away) throw new Problem(0, 'away')
      sent.push(value)
    }, () => {})
    one.put(3)
    one.put(4)
    await vi.advanceTimersByTimeAsync(1)
    expect(one.waiting.value).toBe(true)
    one.stop() // the lid is closed
    const later = newest<number>('steps', async (value) => void sent.push(value), () => {})
    expect(later.kept()).toBe(4)
    away = false
    later.put(later.kept()!)
    await vi.advanceTimersByTimeAsync(1)
    expect(sent).toEqual([4])
    expect(later.kept()).toBeUndefined()
    expect(later.waiting.value).toBe(false)
  })

  it('asks again by itself', async () => {
    let away = true
    const sent: number[] = []
    const one = newest<number>('steps', async (value) => {
      if (away) throw new Problem(0, 'away')
      sent.push(value)
    }, () => {})
    one.put(7)
    await vi.advanceTimersByTimeAsync(10)
    away = false
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent).toEqual([7])
  })

  it('is given up where the server refuses it', async () => {
    const refused = vi.fn()
    const one = newest<number>('steps', async () => {
      throw new Problem(422, 'There are 4 steps in all.')
    }, refused)
    one.put(9)
    await vi.advanceTimersByTimeAsync(1)
    expect(refused).toHaveBeenCalledOnce()
    expect(one.kept()).toBeUndefined()
  })
})

describe('many that have to be sent in order', () => {
  const one = (id: string) => ({ id })
  it('are all kept while the server is away, and sent together when it is back', async () => {
    let away = true
    const sent: string[][] = []
    const many = inOrder<{ id: string }>('events', async (batch) => {
      if (away) throw new Problem(0, 'away')
      sent.push(batch.map((e) => e.id))
    }, () => {})
    for (const id of ['a', 'b', 'c']) many.put(one(id))
    await vi.advanceTimersByTimeAsync(1)
    expect(many.waiting.value).toBe(true)
    expect(many.kept()?.map((e) => e.id)).toEqual(['a', 'b', 'c'])
    away = false
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent).toEqual([['a', 'b', 'c']])
    expect(many.kept()).toBeUndefined()
  })

  it('keep what is put while others are on their way', async () => {
    const sent: string[][] = []
    let arrive = () => {}
    const many = inOrder<{ id: string }>('events', (batch) => new Promise((done) => {
      sent.push(batch.map((e) => e.id))
      arrive = done
    }), () => {})
    many.put(one('a'))
    await vi.advanceTimersByTimeAsync(1)
    many.put(one('b'))
    arrive()
    await vi.advanceTimersByTimeAsync(1)
    expect(sent).toEqual([['a'], ['b']])
    expect(many.kept()?.map((e) => e.id)).toEqual(['b'])
    arrive()
    await many.flush()
    expect(many.kept()).toBeUndefined()
  })

  it('are given up where the server refuses them, and those after them go on', async () => {
    const refused = vi.fn()
    const sent: string[] = []
    const many = inOrder<{ id: string }>('events', async (batch) => {
      if (batch[0]!.id === 'bad') throw new Problem(422, 'no such line')
      sent.push(...batch.map((e) => e.id))
    }, refused)
    many.put(one('bad'))
    await many.flush()
    many.put(one('good'))
    await many.flush()
    expect(refused).toHaveBeenCalledOnce()
    expect(sent).toEqual(['good'])
  })
})
