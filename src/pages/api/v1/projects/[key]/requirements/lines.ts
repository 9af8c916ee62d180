import { writeRequirementLines as writeRequirementLinesContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { writeRequirementLines } from '#server/requirements/write-requirement-lines.ts'

export const POST = route(writeRequirementLinesContract, writeRequirementLines)
