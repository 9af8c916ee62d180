import { dayOf } from '../clock.ts'
import type { Quirks } from '../faults.ts'

export type Band = 'infant' | 'child' | 'adult' | 'senior'

/** Whole years on a day. Who was born on 29 February has their birthday on 1 March where the year has none. */
export function ageOn(born: string, on: string): number {
  const [year, month, date] = parts(born)
  const [ofYear, ofMonth, ofDate] = parts(on)
  const leap = month === 2 && date === 29 && !isLeap(ofYear)
  const [birthMonth, birthDate] = leap ? [3, 1] : [month, date]
  const had = ofMonth > birthMonth || (ofMonth === birthMonth && ofDate >= birthDate)
  return ofYear - year - (had ? 0 : 1)
}

const parts = (date: string): [number, number, number] => {
  const [year = 0, month = 0, of = 0] = date.split('-').map(Number)
  return [year, month, of]
}
const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0

/** Infants are under 4, children 4 to 15, adults 16 to 64, seniors 65 and over, on the day of sailing. */
export function bandOf(born: string, of: { readonly sails: number; readonly booked: number }, has: Quirks): Band {
  const [booked, sails] = [dayOf(of.booked), dayOf(of.sails)]
  const on = has('age-on-booking-day') && ageOn(born, booked) >= 4 ? booked : sails
  const age = ageOn(born, on)
  const fourToday = age === 4 && born.slice(5) === on.slice(5)
  if (age < 4 || (fourToday && has('infant-on-fourth-birthday'))) return 'infant'
  if (age < 16) return 'child'
  return age < 65 ? 'adult' : 'senior'
}
