import type { APIRoute } from 'astro'
import { addressOf } from '#server/app/address-of.ts'
import { backFromProvider } from '#server/app/sign-on-pages.ts'

export const GET: APIRoute = ({ request, url }) => backFromProvider(request, url, addressOf(request))
