import { ensureBuilt, ensureInstalled } from './set-up.mjs'

ensureInstalled()
ensureBuilt()
