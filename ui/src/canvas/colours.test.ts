/** What is drawn over the quilt is told apart by those who see fewer colors: by lightness or hue, and always by its dashes too. */
import { describe, expect, it } from 'vitest'

const LINES = { planned: '#2b3a67', now: '#a8392c', mark: '#b9820f', ruler: '#2f9c95' }
/** What each kind of color blindness makes of linear light (a projection for whole absence of one kind of cone). */
const SEEN = {
  protanopia: [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]],
  deuteranopia: [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.01182, 0.04294, 0.968881]],
  tritanopia: [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.3039]],
}
const linear = (hex: string) => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255).map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4))
const through = (matrix: number[][], rgb: number[]) => matrix.map((row) => Math.min(Math.max(row.reduce((sum, each, k) => sum + each * rgb[k]!, 0), 0), 1))
function lab(rgb: number[]): number[] {
  const xyz = [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]].map((row, k) => row.reduce((sum, each, j) => sum + each * rgb[j]!, 0) / [0.9505, 1, 1.089][k]!)
  const [x, y, z] = xyz.map((t) => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116)) as [number, number, number]
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)]
}
const pairs = Object.keys(LINES).flatMap((one, k, all) => all.slice(k + 1).map((other) => [one, other] as const))

describe.each(Object.entries(SEEN))('With %s', (_, matrix) => {
  it.each(pairs)('%s and %s differ by more than twenty steps that are just seen', (one, other) => {
    const [a, b] = [one, other].map((name) => lab(through(matrix, linear(LINES[name as keyof typeof LINES])))) as [number[], number[]]
    expect(Math.hypot(...a.map((each, k) => each - b[k]!))).toBeGreaterThan(20)
  })
})
