import type { z } from 'zod'
import { type AnyRole, type Right, rights } from './rights.ts'

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'

/** Who may ask: `open` needs no sign-in, `person` any sign-in, the rest a role that has the right. */
type Permission = 'open' | 'person' | Right

/** One thing that may be asked of the server: where, with what, by whom, and what comes back. */
export interface Contract<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  O extends z.ZodType = z.ZodType,
> {
  readonly name: string
  readonly method: Method
  /** Below `/api/v1`, with `:name` for each path parameter. */
  readonly path: string
  readonly permission: Permission
  readonly summary: string
  readonly params: P
  readonly query: Q
  readonly body: B
  readonly output: O
  /** The request must name the version it was made against in `If-Match`. */
  readonly versioned?: true
  /** What a token made for sending results may ask. */
  readonly takesResults?: true
  /** The body or the answer is not JSON (a file, a stream). */
  readonly raw?: true
}

/** The least role that may ask it; where none is asked for, what is asked for instead. */
export const leastRole = ({ permission }: Pick<Contract, 'permission'>): AnyRole | 'open' | 'person' =>
  permission === 'open' || permission === 'person' ? permission : rights[permission].least

export type ParamsOf<C> = C extends Contract<infer P, z.ZodType, z.ZodType, z.ZodType> ? z.input<P> : never
export type QueryOf<C> = C extends Contract<z.ZodType, infer Q, z.ZodType, z.ZodType> ? z.input<Q> : never
export type BodyOf<C> = C extends Contract<z.ZodType, z.ZodType, infer B, z.ZodType> ? z.input<B> : never
export type OutputOf<C> = C extends Contract<z.ZodType, z.ZodType, z.ZodType, infer O> ? z.output<O> : never

/** Keeps the exact Zod types of a contract while checking its shape. */
export const contract = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, O extends z.ZodType>(
  of: Contract<P, Q, B, O>,
): Contract<P, Q, B, O> => of
