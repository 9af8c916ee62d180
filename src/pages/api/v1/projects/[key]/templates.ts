import {
  listTemplates as listTemplatesContract,
  createTemplate as createTemplateContract,
} from '#core/reuse/template-contract.ts'
import { route } from '#server/http/route.ts'
import { listTemplates, createTemplate } from '#server/reuse/keep-templates.ts'

export const GET = route(listTemplatesContract, listTemplates)
export const POST = route(createTemplateContract, createTemplate)
