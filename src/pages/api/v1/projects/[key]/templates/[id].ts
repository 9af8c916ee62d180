import { deleteTemplate as deleteTemplateContract } from '#core/reuse/template-contract.ts'
import { route } from '#server/http/route.ts'
import { deleteTemplate } from '#server/reuse/keep-templates.ts'

export const DELETE = route(deleteTemplateContract, deleteTemplate)
