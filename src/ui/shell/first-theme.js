// Runs before the page is drawn, as a file of its own: no script stands inside a page.
document.documentElement.dataset.theme =
  localStorage.getItem('rovant.theme') || (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')
