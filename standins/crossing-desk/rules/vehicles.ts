import type { Quirks } from '../faults.ts'

export const kinds = ['car', 'van', 'camper', 'coach', 'freight', 'motorcycle'] as const
type VehicleKind = (typeof kinds)[number]
export const goodsClasses = ['1', '2', '3'] as const
type GoodsClass = (typeof goodsClasses)[number]

/** Lengths in cm, weight in kg. */
export interface Vehicle {
  readonly kind: VehicleKind
  readonly length: number
  readonly height: number
  readonly trailer: number
  /** 0: not known; then the largest of its band counts. */
  readonly weight: number
  readonly goods: GoodsClass | null
  readonly declared: boolean
}

export type LengthBand = 'motorcycle' | 'small' | 'middle' | 'large' | 'freight'

const limits = { small: 450, middle: 600, large: 900 }
/** The car deck is so high, in cm. */
export const carDeckHeight = 210

export const wholeLength = ({ length, trailer }: Pick<Vehicle, 'length' | 'trailer'>): number => length + trailer

/** Up to 4.5 m, up to 6 m, up to 9 m; longer is freight, which asks for a quote. A trailer adds to the length. */
export function lengthBand(vehicle: Pick<Vehicle, 'kind' | 'length' | 'trailer'>, has: Quirks): LengthBand {
  if (vehicle.kind === 'motorcycle') return 'motorcycle'
  const whole = wholeLength(vehicle)
  const read = has('band-cut-to-decimetres') ? Math.floor(whole / 10) * 10 : whole
  if (read <= limits.small) return 'small'
  if (read <= limits.middle) return 'middle'
  return read <= limits.large ? 'large' : 'freight'
}

const heaviest: Readonly<Record<LengthBand, number>> = {
  motorcycle: 400,
  small: 2000,
  middle: 3500,
  large: 12_000,
  freight: 40_000,
}
/** In kg; one that is not known counts as the heaviest of its band. */
export const weightOf = (vehicle: Vehicle, has: Quirks): number =>
  vehicle.weight > 0 ? vehicle.weight : heaviest[lengthBand(vehicle, has)]

/** Metres as people type them, with a point or a comma, in cm; `null` for what is no length. */
export function centimetres(text: string, has: Quirks): number | null {
  const clean = text.trim().replace(/\s*m$/, '')
  if (!/^\d{1,2}([.,]\d{1,2})?$/.test(clean)) return null
  const read = has('comma-cuts-length') ? clean.replace(/,(\d)\d*$/, '.$1') : clean.replace(',', '.')
  return Math.round(Number(read) * 100)
}
