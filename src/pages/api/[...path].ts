import type { APIRoute } from 'astro'
import { answerApi } from '#server/app/answer-api.ts'
import { addressOf } from '#server/app/address-of.ts'
import { services } from '#server/app/services.ts'

export const ALL: APIRoute = (context) =>
  answerApi(services(), { request: context.request, url: context.url, address: addressOf(context.request) })
