import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { chosen, idOf, idsOf } from '#core/lib/owned.ts'
import { done, id, line, none, projectParams, refParams } from '#core/lib/shapes.ts'

export const mergeCases = contract({
  name: 'mergeCases',
  method: 'POST',
  path: '/projects/:key/cases/merge',
  permission: 'rearrange',
  summary:
    'Let one case stand for others: it takes their links, pins, defects and tags; they are retired and keep their results',
  params: projectParams,
  query: none,
  body: z.object({ keep: z.string(), drop: z.array(z.string()).min(1).max(50) }),
  output: z.object({ links: z.number(), dropped: z.array(z.string()) }),
})
export const unmergeCase = contract({
  name: 'unmergeCase',
  method: 'POST',
  path: '/projects/:key/cases/:ref/unmerge',
  permission: 'rearrange',
  summary: 'Take a merge back: the case lives again, and what the other took from it goes',
  params: refParams('case'),
  query: none,
  body: none,
  output: done,
})
export const duplicateCases = contract({
  name: 'duplicateCases',
  method: 'POST',
  path: '/projects/:key/cases/duplicate',
  permission: 'writeCases',
  summary: 'Copies of cases beside them, with steps, fields, tags and links',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('test_case', 1000) }),
  output: z.object({ keys: z.array(z.string()), ids: z.array(id) }),
})
export const sendCases = contract({
  name: 'sendCases',
  method: 'POST',
  path: '/projects/:key/cases/send',
  permission: 'rearrange',
  summary: 'Copy or move cases to another project; a moved one is found under its old key too',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('test_case', 1000), project: z.string(), move: z.boolean() }),
  output: z.object({ keys: z.array(z.string()), ids: z.array(id), left: z.array(z.string()) }),
})
export const takeBackCases = contract({
  name: 'takeBackCases',
  method: 'POST',
  path: '/projects/:key/cases/take-back',
  permission: 'rearrange',
  summary: 'Take back what was copied or moved to another project: the copies there go, what was moved is here again',
  params: projectParams,
  query: none,
  body: z.object({ copies: chosen(id, 1000), moved: z.array(idOf('test_case')).max(1000), project: z.string() }),
  output: z.object({ back: z.number() }),
})
export const splitCase = contract({
  name: 'splitCase',
  method: 'POST',
  path: '/projects/:key/cases/:ref/split',
  permission: 'writeCases',
  summary: 'Let the steps from one on be a case of their own, with the same links',
  params: refParams('case'),
  query: none,
  body: z.object({ from: idOf('step'), title: line(300) }),
  output: z.object({ key: z.string() }),
})
export const moveSteps = contract({
  name: 'moveSteps',
  method: 'POST',
  path: '/projects/:key/cases/:ref/steps',
  permission: 'writeCases',
  summary: 'Move or copy steps to the end of another case',
  params: refParams('case'),
  query: none,
  body: z.object({ steps: z.array(idOf('step')).min(1).max(500), to: z.string(), copy: z.boolean() }),
  output: z.object({ moved: z.number() }),
})
