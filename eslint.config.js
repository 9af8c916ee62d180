import tseslint from 'typescript-eslint'

/** Which layer may import which; mirrored by the import-walking test, which also finds cycles. */
const layers = {
  core: {
    files: ['src/core/**/*.ts'],
    banned: ['#db/', '#server/', '#ui/', '#cli/', '#demo/', 'node:', 'better-sqlite3', 'drizzle-orm', 'react', 'astro'],
  },
  db: { files: ['src/db/**/*.ts'], banned: ['#server/', '#ui/', '#cli/', '#demo/'] },
  server: { files: ['src/server/**/*.ts'], banned: ['#ui/', '#cli/', '#demo/', 'better-sqlite3', 'drizzle-orm'] },
  ui: {
    files: ['src/ui/**/*.{ts,tsx}'],
    banned: ['#db/', '#server/', '#cli/', '#demo/', 'node:', 'better-sqlite3', 'drizzle-orm'],
  },
  kit: {
    files: ['src/ui/kit/**/*.{ts,tsx}'],
    banned: ['#db/', '#server/', '#cli/', '#demo/', 'node:', '#ui/(?!kit/)', '#core/(?!lib/|cases/steps|lib/verdict)'],
  },
  pages: {
    files: ['src/pages/**/*.ts', 'src/middleware.ts', 'src/cli/**/*.ts'],
    banned: ['#db/', 'drizzle-orm', 'better-sqlite3'],
  },
}

const plainRules = {
  'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
  'max-params': ['error', 5],
  'max-depth': ['error', 3],
  // What is longer becomes a few named parts.
  'max-lines-per-function': ['error', { max: 60 }],
  'no-var': 'error',
  eqeqeq: ['error', 'always', { null: 'ignore' }],
  'prefer-const': 'error',
  '@typescript-eslint/no-explicit-any': 'error',
  '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
  'no-warning-comments': ['error', { terms: ['todo', 'fixme', 'xxx'] }],
}

export default tseslint.config(
  { ignores: ['dist/**', 'node_modules/**', 'data/**', '.astro/**', 'test/fixtures/**'] },
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parser: tseslint.parser, parserOptions: { ecmaFeatures: { jsx: true } } },
    plugins: { '@typescript-eslint': tseslint.plugin },
    rules: plainRules,
    linterOptions: { reportUnusedDisableDirectives: 'off' },
  },
  ...Object.values(layers).map(({ files, banned }) => ({
    files,
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: banned.map((regex) => ({
            regex: `^${regex}`,
            message: 'This layer may not import that one; see docs/architecture.md.',
          })),
        },
      ],
    },
  })),
  {
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'Core never asks for the time; it is passed in.',
        },
        {
          selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
          message: 'Core never asks for the time; it is passed in.',
        },
        {
          selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
          message: 'Core never asks for chance; it is passed in.',
        },
        { selector: 'ImportExpression', message: 'Core imports nothing at run time.' },
      ],
    },
  },
  {
    files: ['src/ui/**/*.tsx'],
    ignores: ['src/ui/kit/SafeText.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "JSXAttribute[name.name='dangerouslySetInnerHTML']",
          message: 'Rich text is drawn by SafeText, which takes what the cleaner made.',
        },
      ],
    },
  },
  // Rules that ask the compiler what a thing is.
  {
    files: ['src/**/*.{ts,tsx}', 'demo/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/no-unsafe-call': 'error',
      '@typescript-eslint/no-unsafe-assignment': 'error',
      '@typescript-eslint/no-unsafe-argument': 'error',
      '@typescript-eslint/no-unsafe-member-access': 'error',
      '@typescript-eslint/no-unsafe-return': 'error',
    },
  },
  // A table of invented texts, read as one.
  { files: ['demo/outline.ts'], rules: { 'max-lines': 'off' } },
  {
    files: ['**/*.test.ts', '**/*.test.tsx'],
    rules: { 'no-restricted-imports': 'off', 'max-depth': 'off', 'max-lines-per-function': 'off' },
  },
)
