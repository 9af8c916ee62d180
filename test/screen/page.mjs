// A page without a browser, for the tests of what the interface decides. It is set up before anything else is loaded.
import { register } from 'node:module'
import { JSDOM } from 'jsdom'

register('./styles.mjs', import.meta.url)

const { window } = new JSDOM('<!doctype html><html lang="en"><body></body></html>', {
  url: 'http://rovant.test/p/SHOP',
  pretendToBeVisual: true,
})

/** What the window has and Node has not, or has of another kind. */
const own = new Set(['Event', 'CustomEvent', 'EventTarget', 'MessageEvent', 'navigator', 'DOMException'])
for (const name of Object.getOwnPropertyNames(window)) {
  if (name in globalThis && !own.has(name)) continue
  const value = window[name]
  Object.defineProperty(globalThis, name, { configurable: true, writable: true, value })
}
Object.assign(globalThis, { window: globalThis, IS_REACT_ACT_ENVIRONMENT: true })
for (const name of ['addEventListener', 'removeEventListener', 'dispatchEvent', 'getComputedStyle', 'getSelection'])
  globalThis[name] = window[name].bind(window)

// What is not drawn has no size and never changes it.
class NoObserver {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.CSS = { escape: (text) => text.replaceAll(/["\\]/g, '\\$&') }
Object.assign(globalThis, { ResizeObserver: NoObserver, IntersectionObserver: NoObserver })
// Nothing is painted, so a canvas has no pen.
window.HTMLCanvasElement.prototype.getContext = () => null
globalThis.matchMedia = () => ({ matches: false, addEventListener() {}, removeEventListener() {} })
window.Element.prototype.scrollIntoView = () => undefined
window.HTMLDialogElement.prototype.showModal ??= function () {
  this.open = true
}
window.HTMLDialogElement.prototype.close ??= function () {
  this.open = false
}
// Rows of long lists are drawn as far as there is room for them.
for (const [name, size] of Object.entries({ offsetWidth: 1200, offsetHeight: 800, clientHeight: 800 }))
  Object.defineProperty(window.HTMLElement.prototype, name, { configurable: true, get: () => size })

// One page alone hears nothing from others.
globalThis.SharedWorker = class {
  port = { start() {}, postMessage() {}, onmessage: null }
}

// What a worker computes is computed here, in one go.
globalThis.Worker = class {
  #hear = () => undefined
  addEventListener(_, hear) {
    this.#hear = hear
  }
  async postMessage({ id, model, accepted }) {
    const { drafted } = await import('./drafted.ts')
    this.#hear({ data: model === null ? { id, kind: 'stopped' } : drafted(id, model, accepted) })
  }
  terminate() {
    this.#hear = () => undefined
  }
}
