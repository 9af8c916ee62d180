import { defineConfig } from 'drizzle-kit'

export default defineConfig({
  dialect: 'sqlite',
  casing: 'snake_case',
  schema: './src/db/*/tables.ts',
  out: './src/db/migrations',
})
