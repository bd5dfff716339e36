import next from '@next/eslint-plugin-next';
import a11y from 'eslint-plugin-jsx-a11y-x';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** The arrows of the house: app -> features -> server, workers -> core; ui stands beside, on core alone. */
const never = (patterns, why) => [
  'error',
  { patterns: patterns.map((group) => ({ group: [].concat(group), message: why })) },
];

const FRAMEWORKS = ['react', 'react-dom', 'react/*', 'next', 'next/*', 'pg', 'kysely', 'zustand', 'comlink', 'node:*'];
const DEEP_CORE = ['@/core/*/*', '@/core/*/*/**', '!@/core/formats/*'];

export default ts.config(
  {
    ignores: ['node_modules', '.next', '.data', 'test-results', 'next-env.d.ts', 'src/core/shorthand/calls.parser*.ts'],
  },

  ...ts.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', prefer: 'type-imports' },
      ],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'error',
      // The formatter breaks what it can; what it can't is a string.
      'max-len': [
        'error',
        { code: 120, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true },
      ],
    },
  },
  {
    files: [
      'scripts/**',
      'bench/**',
      'src/cli/**',
      'src/server/db/migrate-main.ts',
      'src/server/archive/main.ts',
      'e2e/**',
    ],
    languageOptions: {
      globals: { console: 'readonly', process: 'readonly', setTimeout: 'readonly', fetch: 'readonly', URL: 'readonly' },
    },
    rules: { 'no-console': 'off' },
  },
  {
    files: ['src/core/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': never(
        [FRAMEWORKS, ['@/*', '**/server/**', '**/features/**', '**/ui/**', '**/app/**', '**/workers/**']],
        'The core is pure: no framework, no I/O, nobody above it.',
      ),
      'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'localStorage', 'fetch', 'process', 'Date'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Same input, same output: take a seed.' },
      ],
    },
  },
  {
    files: ['src/core/*/**'],
    ignores: ['src/core/**/*.test.{ts,tsx}', 'src/core/**/test-support/**', 'src/core/formats/**'],
    rules: {
      'no-restricted-imports': never(
        [FRAMEWORKS, ['@/*'], ['../*/*', '!../formats/*']],
        'Within the core one folder sees another only through its index.',
      ),
    },
  },
  // A room with folders of its own: they enter other rooms by their indexes too.
  {
    files: ['src/core/*/*/**'],
    ignores: ['src/core/**/*.test.{ts,tsx}', 'src/core/**/test-support/**', 'src/core/formats/**'],
    rules: {
      'no-restricted-imports': never(
        [FRAMEWORKS, ['@/*'], ['../../*/*']],
        'Within the core one folder sees another only through its index.',
      ),
    },
  },
  {
    files: ['src/workers/**'],
    rules: {
      'no-restricted-imports': never(
        [['@/server/**', '@/features/**', '@/ui/**', '@/app/**', 'react', 'next/*'], DEEP_CORE],
        'A worker is a door to the core.',
      ),
    },
  },
  {
    files: ['src/server/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': never(
        [['@/features/**', '@/ui/**', '@/app/**', '@/workers/**', 'react', 'next/*'], DEEP_CORE],
        'The server knows the core and the database.',
      ),
    },
  },
  {
    files: ['src/ui/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': never(
        [['@/features/**', '@/server/**', '@/app/**', '@/workers/**'], DEEP_CORE],
        'The house style knows the core, and no feature.',
      ),
    },
  },
  {
    files: ['src/features/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': never(
        [['@/app/**', 'next/link'], DEEP_CORE],
        'Nothing imports routes; links are those of ui/link; the core is entered by its indexes.',
      ),
    },
  },
  {
    files: ['src/app/**', 'src/cli/**'],
    rules: {
      'no-restricted-imports': never(
        [['next/link'], DEEP_CORE],
        'The core is entered by its indexes; links are those of ui/link.',
      ),
    },
  },
  {
    files: ['src/**/*.tsx', 'src/**/use-*.ts'],
    plugins: { 'react-hooks': hooks, 'jsx-a11y-x': a11y, '@next/next': next },
    rules: {
      ...hooks.configs.recommended.rules,
      ...a11y.configs.recommended.rules,
      ...next.configs.recommended.rules,
      'jsx-a11y-x/no-noninteractive-tabindex': ['error', { roles: ['application', 'region'], tags: [] }],
    },
  },
  // A hook's value read in a callback above its line crashes at run time, and the compiler does not see it.
  {
    files: ['src/features/**/*.tsx', 'src/ui/**/*.tsx'],
    rules: {
      '@typescript-eslint/no-use-before-define': ['error', { functions: false, classes: false, typedefs: false }],
    },
  },
  // The strip is a drawing worked by keyboard and pointer as a whole: an application in ARIA's words.
  { files: ['src/features/place/strip.tsx'], rules: { 'jsx-a11y-x/no-noninteractive-element-interactions': 'off' } },
  // A function that outgrows a screen by far is several.
  {
    files: ['src/**/*.{ts,tsx}', 'scripts/**', 'bench/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: { 'max-lines-per-function': ['error', { max: 200, skipBlankLines: true, skipComments: true, IIFEs: true }] },
  },
);
