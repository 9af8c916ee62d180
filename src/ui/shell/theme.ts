import { useEffect, useState } from 'react'

export type Theme = 'light' | 'dark'
const store = 'rovant.theme'
const parse = (text: string | null): Theme => (text === 'dark' ? 'dark' : 'light')
export const nextTheme = (theme: Theme): Theme => (theme === 'dark' ? 'light' : 'dark')

/** The theme a person chose in this browser; a script in the page's head sets it before the first paint. */
export function useTheme(): [Theme, (to: Theme) => void] {
  const [theme, set] = useState<Theme>('light')
  useEffect(() => set(parse(localStorage.getItem(store))), [])
  const choose = (to: Theme) => {
    localStorage.setItem(store, to)
    document.documentElement.dataset['theme'] = to
    set(to)
  }
  return [theme, choose]
}
