import type { APIRoute } from 'astro'
import { leaveForProvider } from '#server/app/sign-on-pages.ts'

export const GET: APIRoute = ({ url }) => leaveForProvider(url)
