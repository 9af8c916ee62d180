import { deleteTemplate as deleteTemplateContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { deleteTemplate } from '#server/cases/keep-templates.ts'

export const DELETE = route(deleteTemplateContract, deleteTemplate)
