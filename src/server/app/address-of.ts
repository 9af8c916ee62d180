/** Where a request comes from, as the server sees it; a request that came by no network has no address. */
export function addressOf(context: { readonly clientAddress: string }): string {
  try {
    return context.clientAddress
  } catch {
    return 'local'
  }
}
