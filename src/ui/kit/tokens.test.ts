import { readFileSync } from 'node:fs'
import { expect } from 'chai'
import { type Token, tokenPairs, tokens } from './tokens.ts'

const css = readFileSync(new URL('./tokens.css', import.meta.url), 'utf8')
const [light = '', dark = ''] = css.split(":root[data-theme='dark']")

function colourOf(theme: string, name: Token): number[] {
  const hex = new RegExp(`--${name}: #([0-9A-F]{6})`, 'i').exec(theme)?.[1]
  if (!hex) throw new Error(`no colour --${name}`)
  return [0, 2, 4].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255)
}
/** Relative luminance and contrast as WCAG 2.2 defines them. */
const luminance = (rgb: number[]): number =>
  rgb
    .map((part) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4))
    .reduce((sum, part, index) => sum + part * ([0.2126, 0.7152, 0.0722][index] ?? 0), 0)
const contrast = (a: number[], b: number[]): number => {
  const [bright, dim] = [luminance(a), luminance(b)].sort((x, y) => y - x)
  return ((bright ?? 0) + 0.05) / ((dim ?? 0) + 0.05)
}

for (const [name, theme] of [
  ['light', light],
  ['dark', dark],
] as const)
  it(`keeps the contrast of every pair in use in the ${name} theme`, () => {
    const weak = tokenPairs
      .map((pair) => ({ ...pair, is: contrast(colourOf(theme, pair.on), colourOf(theme, pair.front)) }))
      .filter(({ is, least }) => is < least)
    expect(weak.map(({ on, front, is }) => `${front} on ${on}: ${is.toFixed(2)}`)).to.deep.equal([])
  })
it('defines every token in both themes', () => {
  for (const token of tokens) for (const theme of [light, dark]) expect(colourOf(theme, token)).to.have.length(3)
})
