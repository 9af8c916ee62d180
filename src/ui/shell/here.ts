import { createContext, useContext } from 'react'
import type { Me } from '#core/people/contract.ts'
import type { Project } from '#core/projects/contract.ts'

export interface Here {
  readonly me: Me
  readonly project: Project
  readonly key: string
  readonly streaming: boolean
}
export const HereContext = createContext<Here | null>(null)

/** Who is here, and in which project. */
export function useHere(): Here {
  const here = useContext(HereContext)
  if (!here) throw new Error('outside the shell')
  return here
}
