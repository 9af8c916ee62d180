// Style sheets have no say in what a component decides: every class is called by its own name.
const named = 'export default new Proxy({}, { get: (_, name) => String(name) })'

export const load = (url, context, next) =>
  new URL(url).pathname.endsWith('.css') ? { format: 'module', source: named, shortCircuit: true } : next(url, context)
