import { expect } from 'chai'
import { type Driver, says, text } from '../driver.ts'

/** Values of a row of the case’s data, by column. */
export type Row = Readonly<Record<string, string>>
/** A case as a machine does it, once for each row of its data. */
type Check = (of: Driver, row: Row) => Promise<void>
/** Checks by the title of the case they do. */
export type Checks = Readonly<Record<string, Check>>

/** What a page has to say somewhere, as it is or by a pattern. */
export async function shows(of: Driver, ...wanted: readonly (string | RegExp)[]): Promise<void> {
  for (const each of wanted) if (!(await says(of, each))) expect(await text(of)).to.contain(String(each))
}
export async function hides(of: Driver, ...unwanted: readonly (string | RegExp)[]): Promise<void> {
  for (const each of unwanted) expect(await says(of, each), String(each)).to.equal(false)
}
/** A value of the row; one that is not there is a mistake in the check. */
export function valueOf(row: Row, name: string): string {
  const value = row[name]
  if (value === undefined) throw new Error(`the row has no ${name}`)
  return value
}
/** `Wed 13 May` or `2026-05-13` as `2026-05-13`. */
export function dayIn(text: string): string {
  const [, of = '', month = ''] = /(\d+) (\w{3})/.exec(text) ?? []
  const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
  return /^\d{4}-/.test(text)
    ? text.slice(0, 10)
    : `2026-${String(months.indexOf(month) + 1).padStart(2, '0')}-${of.padStart(2, '0')}`
}
/** `10:40` in `Sat 16 May, 10:40`. */
export const timeIn = (text: string): string => /\d\d:\d\d/.exec(text)?.[0] ?? ''
const ports: Readonly<Record<string, string>> = { Ovemouth: 'OV', Tarnsey: 'TA', 'Low Skerrin': 'LS' }
export const portIn = (name: string): string => ports[name] ?? name
/** The id of a sailing: `OVTA-260513-1040`. */
export const sailingId = (from: string, to: string, day: string, time: string): string =>
  `${portIn(from)}${portIn(to)}-${dayIn(day).slice(2).replaceAll('-', '')}-${time.replace(':', '')}`
