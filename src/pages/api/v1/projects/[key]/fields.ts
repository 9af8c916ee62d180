import {
  listCustomFields as listCustomFieldsContract,
  createCustomField as createCustomFieldContract,
} from '#core/projects/custom.ts'
import { route } from '#server/http/route.ts'
import { listCustomFields, createCustomField } from '#server/projects/keep-fields.ts'

export const GET = route(listCustomFieldsContract, listCustomFields)
export const POST = route(createCustomFieldContract, createCustomField)
