/**
 * Where to go after signing in: a path of our own, or the beginning. Browsers drop tabs and line breaks of an address and read a
 * backslash as a slash, so that what looks like a path may lead away; the address is judged as they read it.
 */
export function ownPath(asked: string): string {
  const here = 'http://here.invalid'
  if (!asked.startsWith('/') || !URL.canParse(asked, here)) return '/'
  const read = new URL(asked, here)
  const path = read.pathname + read.search + read.hash
  // “/.//elsewhere” is ours as it stands, and another's once its dot is gone.
  return read.origin === here && new URL(path, here).origin === here ? path : '/'
}
