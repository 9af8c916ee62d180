import { useEffect, useState } from 'react'

export type Theme = 'light' | 'dark'
const store = 'rovant.theme'
const systemDark = '(prefers-color-scheme: dark)'

/** What a person chose in this browser; nothing: as the system has it. */
const chosenTheme = (): Theme | null => {
  const text = localStorage.getItem(store)
  return text === 'dark' || text === 'light' ? text : null
}
const systemTheme = (): Theme => (matchMedia(systemDark).matches ? 'dark' : 'light')
export const otherTheme = (theme: Theme): Theme => (theme === 'dark' ? 'light' : 'dark')

/** The theme that is shown: the one chosen in this browser, else the system's, also when that changes. A script in the page's head sets it before the first paint. */
export function useTheme(): { theme: Theme; chosen: boolean; choose: (to: Theme | null) => void } {
  const [chosen, setChosen] = useState<Theme | null>(null)
  const [system, setSystem] = useState<Theme>('light')
  useEffect(() => {
    setChosen(chosenTheme())
    setSystem(systemTheme())
    const media = matchMedia(systemDark)
    const hear = () => {
      setSystem(systemTheme())
      document.documentElement.dataset['theme'] = chosenTheme() ?? systemTheme()
    }
    media.addEventListener('change', hear)
    return () => media.removeEventListener('change', hear)
  }, [])
  const choose = (to: Theme | null) => {
    if (to === null) localStorage.removeItem(store)
    else localStorage.setItem(store, to)
    document.documentElement.dataset['theme'] = to ?? systemTheme()
    setChosen(to)
  }
  return { theme: chosen ?? system, chosen: chosen !== null, choose }
}
