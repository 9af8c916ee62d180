const here = 'http://here.invalid'
const isHere = (path: string): boolean => URL.canParse(path, here) && new URL(path, here).origin === here

/**
 * Where to go after signing in: a path of our own, or the beginning. Browsers drop tabs and line breaks of an address and read a
 * backslash as a slash, so that what looks like a path may lead away; the address is judged as they read it.
 */
export function ownPath(asked: string): string {
  if (!asked.startsWith('/') || !isHere(asked)) return '/'
  const { pathname, search, hash } = new URL(asked, here)
  const path = pathname + search + hash
  // “/.//elsewhere” is ours as it stands, and another's, or nobody's, once its dot is gone.
  return isHere(path) ? path : '/'
}
