import {
  updateCustomField as updateCustomFieldContract,
  deleteCustomField as deleteCustomFieldContract,
} from '#core/projects/custom.ts'
import { route } from '#server/http/route.ts'
import { updateCustomField, deleteCustomField } from '#server/projects/keep-fields.ts'

export const PATCH = route(updateCustomFieldContract, updateCustomField)
export const DELETE = route(deleteCustomFieldContract, deleteCustomField)
