/** Questions that are overtaken, refused, or left. */
import { describe, expect, it } from 'vitest'
import { effectScope } from 'vue'
import { Problem } from '../api/client'
import { useAsk } from './ask'

const later = <T>(value: T, ms: number) => new Promise<T>((done) => setTimeout(() => done(value), ms))

describe('asking', () => {
  it('drops an answer that another question has overtaken, and shows that one is waited for', async () => {
    const { ask, pending } = useAsk()
    const first = ask(() => later('first', 20))
    const second = ask(() => later('second', 1))
    expect(pending.value).toBe(true)
    expect(await Promise.all([first, second])).toEqual([undefined, 'second'])
    expect(pending.value).toBe(false)
  })
  it('says what was refused at its field, until the next answer', async () => {
    const { ask, fault } = useAsk()
    expect(await ask(() => Promise.reject(new Problem(422, 'too small', 'rise')))).toBeUndefined()
    expect(fault.value).toEqual({ field: 'rise', message: 'too small', status: 422 })
    await ask(() => later(1, 0))
    expect(fault.value).toBeUndefined()
  })
  it('hides no fault of the code itself', async () => {
    await expect(useAsk().ask(() => Promise.reject(new TypeError('x is not a function')))).rejects.toThrow(TypeError)
  })
  it('aborts what is under way when its owner goes', async () => {
    const scope = effectScope()
    const aborted = scope.run(() => {
      const { ask } = useAsk()
      return new Promise<boolean>((done) => void ask((signal) => new Promise(() => signal.addEventListener('abort', () => done(true)))))
    })!
    scope.stop()
    expect(await aborted).toBe(true)
  })
})
