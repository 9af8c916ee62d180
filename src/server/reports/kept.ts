/** What is made once of something, by a key; where more than `most` are kept, the oldest goes. */
export function kept<Of extends object, K, T>(
  all: WeakMap<Of, Map<K, T>>,
  at: { readonly of: Of; readonly key: K; readonly most?: number },
  make: () => T,
): T {
  const own = all.get(at.of) ?? new Map<K, T>()
  all.set(at.of, own)
  const made = own.get(at.key) ?? make()
  own.set(at.key, made)
  const [oldest] = own.keys()
  if (own.size > (at.most ?? Infinity) && oldest !== undefined) own.delete(oldest)
  return made
}
