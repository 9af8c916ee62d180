/** The little that pages do by themselves; all of it works without. */
export const script = `'use strict'
for (const clock of document.querySelectorAll('[data-until]')) {
  const end = Date.now() + Number(clock.dataset.until)
  const tell = () => {
    const seconds = Math.max(0, Math.ceil((end - Date.now()) / 1000))
    clock.textContent = String(Math.floor(seconds / 60)).padStart(2, '0') + ':' + String(seconds % 60).padStart(2, '0')
  }
  setInterval(tell, 1000)
}
// A form that pays is sent once.
const paying = document.getElementById('pay')
paying?.addEventListener('submit', () => { for (const button of paying.querySelectorAll('button')) button.disabled = true })
const twice = document.getElementById('pay-twice')
twice?.addEventListener('submit', (event) => {
  event.preventDefault()
  fetch(twice.action, { method: 'POST', body: new URLSearchParams(new FormData(twice)), redirect: 'manual' })
    .then(() => setTimeout(() => { location.href = twice.action.replace(/pay$/, 'receipt') }, 700))
})
for (const search of document.querySelectorAll('[data-search]'))
  for (const choice of search.querySelectorAll('select'))
    choice.addEventListener('change', () => { const day = search.querySelector('[name=date]'); day.value = day.dataset.today ?? '2026-05-12' })
for (const each of document.querySelectorAll('[data-mouse-only]'))
  each.addEventListener('click', () => {
    const form = each.closest('form')
    const chosen = Object.assign(document.createElement('input'), { type: 'hidden', name: 'sailing', value: each.dataset.mouseOnly })
    form.append(chosen)
    form.submit()
  })
const moment = document.querySelectorAll('[data-moment]')
if (moment.length > 0) setTimeout(() => {
  for (const row of moment) row.remove()
  for (const row of document.querySelectorAll('[data-later]')) row.hidden = false
}, 500)
`
