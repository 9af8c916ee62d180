import { instant, minute } from './clock.ts'

export const ports = ['OV', 'TA', 'LS'] as const
export type Port = (typeof ports)[number]

export interface Sailing {
  /** `OVTA-0512-1040`: where from and to, the day, the time. */
  readonly id: string
  readonly from: Port
  readonly to: Port
  /** The route whatever the direction. */
  readonly route: string
  readonly departs: number
  readonly arrives: number
}

interface Way {
  readonly from: Port
  readonly to: Port
  readonly route: string
  readonly minutes: number
  readonly times: readonly string[]
}
/** Ovemouth and Low Skerrin have few sailings of their own; the ports between which there are none are not offered. */
const ways: readonly Way[] = [
  { from: 'OV', to: 'TA', route: 'OV-TA', minutes: 55, times: ['06:30', '08:15', '10:40', '14:20', '17:50', '20:30'] },
  { from: 'TA', to: 'OV', route: 'OV-TA', minutes: 55, times: ['07:00', '09:30', '11:35', '15:40', '19:10', '21:45'] },
  { from: 'OV', to: 'LS', route: 'OV-LS', minutes: 110, times: ['07:00', '10:40', '16:10'] },
  { from: 'LS', to: 'OV', route: 'OV-LS', minutes: 110, times: ['09:20', '13:10', '18:40'] },
]

export const connected = (from: Port): Port[] => ways.filter((way) => way.from === from).map(({ to }) => to)

const idOf = ({ from, to }: Way, date: string, time: string): string =>
  `${from}${to}-${date.slice(2).replaceAll('-', '')}-${time.replace(':', '')}`

function sailingOf(way: Way, date: string, time: string): Sailing {
  const departs = instant(date, time)
  const { from, to, route } = way
  return { id: idOf(way, date, time), from, to, route, departs, arrives: departs + way.minutes * minute }
}

/** Sailings of a day between two ports, by departure. */
export const sailingsOn = (from: Port, to: Port, date: string): Sailing[] =>
  ways
    .filter((way) => way.from === from && way.to === to)
    .flatMap((way) => way.times.map((time) => sailingOf(way, date, time)))
    .sort((a, b) => a.departs - b.departs)

/** Every sailing from a port on a day. */
export const departuresOn = (from: Port, date: string): Sailing[] =>
  connected(from)
    .flatMap((to) => sailingsOn(from, to, date))
    .sort((a, b) => a.departs - b.departs)

export function sailingById(id: string): Sailing | undefined {
  const [, from, to, year, month, date, hours, minutes] =
    /^(OV|TA|LS)(OV|TA|LS)-(\d\d)(\d\d)(\d\d)-(\d\d)(\d\d)$/.exec(id) ?? []
  const way = ways.find((each) => each.from === from && each.to === to)
  const time = `${hours}:${minutes}`
  return way?.times.includes(time) ? sailingOf(way, `20${year}-${month}-${date}`, time) : undefined
}
