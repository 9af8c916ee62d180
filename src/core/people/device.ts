const browsers = [
  ['Edg/', 'Edge'],
  ['OPR/', 'Opera'],
  ['Firefox/', 'Firefox'],
  ['Chrome/', 'Chromium'],
  ['Safari/', 'Safari'],
] as const
const systems = [
  ['Android', 'Android'],
  ['iPhone', 'an iPhone'],
  ['iPad', 'an iPad'],
  ['Windows', 'Windows'],
  ['Mac OS', 'macOS'],
  ['Linux', 'Linux'],
] as const

/** What a browser says of itself, in words a person knows their device by. */
export function deviceOf(userAgent: string): string {
  const named = (of: readonly (readonly [string, string])[]) => of.find(([sign]) => userAgent.includes(sign))?.[1]
  const [browser, system] = [named(browsers), named(systems)]
  if (!browser && !system) return userAgent === '' ? 'a program that names no device' : userAgent.slice(0, 60)
  return `${browser ?? 'a browser'}${system ? ` on ${system}` : ''}`
}
