import { createContext, useContext } from 'react'
import type { Me } from '#core/people/contract.ts'
import type { Project } from '#core/projects/contract.ts'
import { scopeSearch, useAddress } from './address.ts'

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

/** Where an object is read, in the scope one is in. */
export function useTo(): (ref: string) => string {
  const { key } = useHere()
  const { params } = useAddress()
  return (ref) => `/p/${key}/${ref}${scopeSearch(params)}`
}
