import { addressHeader } from '#server/http/address.ts'

/** Where a request comes from, as the front door tells it; a request that came by no network has no address. */
export const addressOf = ({ headers }: Request): string => headers.get(addressHeader) ?? 'local'
