// Runs before the page is drawn, as a file of its own: no script stands inside a page.
document.documentElement.dataset.theme =
  localStorage.getItem('rovant.theme') || (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')

// Somebody may write before the programs of the page are there; what, and in which field, is told to them (kit/typed-before.ts).
window.typedBefore = new Map()
window.addEventListener('input', ({ target }) => window.typedBefore?.set(target, target.value), { capture: true })
