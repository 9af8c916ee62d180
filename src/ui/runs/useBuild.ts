import { useEffect, useRef, useState } from 'react'
import type { Desk } from '#core/runs/desk-contract.ts'

/**
 * Which build one executes on, where another stands in the environment than the run expects: asked once for each run, environment and
 * installed build, before the first verdict there.
 */
export function useBuild({ installed, run, item }: Desk) {
  const differs = installed !== null && installed.build !== run.buildId
  const name = `rovant.build.${run.key}.${item.environment}.${installed?.build ?? 0}`
  const [said, setSaid] = useState<number | null>(null)
  const now = useRef<number | null>(null)
  const [asking, setAsking] = useState<((build: number | null) => void) | null>(null)
  const hold = (build: number | null) => {
    now.current = build
    setSaid(build)
  }
  useEffect(() => {
    const kept = Number(sessionStorage.getItem(name) ?? 0)
    hold(kept === installed?.build || kept === run.buildId ? kept : null)
  }, [name])
  const say = (build: number | null) => {
    if (build !== null) {
      sessionStorage.setItem(name, String(build))
      hold(build)
    }
    asking?.(build)
    setAsking(null)
  }
  /** What to begin with; `null` where that was left open. */
  const settle = async (): Promise<{ readonly build?: number } | null> => {
    if (!differs) return {}
    const build = now.current ?? (await new Promise<number | null>((resolve) => setAsking(() => resolve)))
    return build === null ? null : { build }
  }
  return { differs, said, asks: asking !== null, say, settle }
}
