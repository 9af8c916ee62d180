/** Every build that was offered, in order; a fault is in some of them. */
export const builds = [
  '2.3.0',
  '2.3.1',
  '2.3.2',
  '2.3.4',
  '2.4.0-beta1',
  '2.4.0-beta2',
  '2.4.0-rc1',
  '2.4.0-rc2',
  '2.4.0-rc3',
] as const
export type Build = (typeof builds)[number]

export const buildNamed = (text: string): Build | undefined => builds.find((build) => build === text)

export const engines = ['Chromium', 'Gecko', 'WebKit'] as const
export const devices = ['desk', 'phone', 'tablet'] as const
export const languages = ['en', 'ov', 'sk'] as const
export type Engine = (typeof engines)[number]
export type Device = (typeof devices)[number]
export type Language = (typeof languages)[number]

/** What a page is told of who looks at it. */
export interface Looking {
  readonly engine: Engine
  readonly device: Device
  readonly language: Language
}
