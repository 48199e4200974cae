import pluginVue from 'eslint-plugin-vue';
import { defineConfig } from 'eslint/config';
import tseslint from 'typescript-eslint';

export default defineConfig(
  { ignores: ['dist/', '/data/', 'node_modules/', 'coverage/', '.cache/'] },
  ...tseslint.configs.strict,
  ...tseslint.configs.stylistic,
  { files: ['web/**', '**/*.vue'], extends: [pluginVue.configs['flat/essential']] },
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
    rules: {
      'vue/multi-word-component-names': ['error', { ignores: ['App', 'Frame'] }],
      'vue/valid-v-slot': ['error', { allowModifiers: true }],
    },
  },
  {
    rules: {
      '@typescript-eslint/consistent-type-definitions': ['error', 'interface'],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // Doing nothing on purpose is said in a comment or by an empty default.
      '@typescript-eslint/no-empty-function': 'off',
      'no-restricted-syntax': [
        'error',
        { selector: 'TSEnumDeclaration', message: 'Use a union of words.' },
        {
          selector: "CallExpression[callee.object.name='vi'][callee.property.name='waitFor']",
          message: 'A busy machine takes its time: wait with `eventually`.',
        },
      ],
      // The formatter breaks all but comments and SQL. Sentences, pages and drawings stand on a line each.
      'max-len': [
        'error',
        {
          code: 120,
          ignoreStrings: true,
          ignoreRegExpLiterals: true,
          ignoreUrls: true,
          ignorePattern: '(words|detail|reason): `|^\\s*[?:]? ?`(\\$|//)|</?[a-z]+[ >]|\\$\\{[^}]*\\(',
        },
      ],
    },
  },
  {
    files: ['{core,server,web}/**/*.{ts,vue}'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        {
          property: 'toFixed',
          message: 'A shop may write decimals with a comma: `formatTenths`, `formatMoney`.',
        },
      ],
    },
  },
  {
    files: ['web/**/*.{ts,vue}'],
    // Where they are answered: there what cannot be had is said.
    ignores: ['web/notices/answer.ts', 'web/journal/returnsOf.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          name: '@vueuse/core',
          importNames: ['computedAsync'],
          message: 'What cannot be had is said: `useAnswer`.',
        },
      ],
    },
  },
  // Where `eventually` itself is.
  { files: ['contract/testing/eventually.ts'], rules: { 'no-restricted-syntax': 'off' } },
  {
    files: ['web/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: 'TSEnumDeclaration', message: 'Use a union of words.' },
        {
          selector:
            "AssignmentExpression[left.property.name='value'] AwaitExpression > CallExpression[callee.name=/^(read|write|writeSurely|sendFile)$/]",
          message:
            'What is asked for is shown by `shown`: the last question counts, whatever is answered first.',
        },
      ],
    },
  },
  {
    files: ['server/**/*.ts'],
    // What is asked of the database as a whole: checks, backups, and tests.
    ignores: [
      'server/**/*{Store,store,Checks}.ts',
      'server/{db,backups,testing,fuzz}/**',
      'server/books/verify.ts',
      '**/*.test.ts',
    ],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: 'TSEnumDeclaration', message: 'Use a union of words.' },
        {
          selector: "CallExpression > MemberExpression[property.name='query'][object.name=/^(sql|reader)$/]",
          message: 'SQL stands in the stores.',
        },
        {
          selector: "CallExpression[callee.name='Number'] MemberExpression[property.name=/^(params|query)$/]",
          message: 'Whatever may stand in an address: `idIn`, `pageIn`, `sinceIn`.',
        },
        {
          selector: "CallExpression[callee.property.name='put'] > CallExpression[callee.name='write']",
          message: 'What replaces something says what was looked at: `replace`.',
        },
      ],
    },
  },
);
