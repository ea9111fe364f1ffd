import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import regexp from 'eslint-plugin-regexp'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** `...{ a, b }` in an object says the same as `a, b`, but a property that does not belong there is no error in it. */
const noLiteralSpread = {
  meta: {
    type: 'problem',
    fixable: 'code',
    schema: [],
    messages: { spread: 'Write these properties without a spread.' },
  },
  create: (context) => ({
    'ObjectExpression > SpreadElement > ObjectExpression.argument'(object) {
      const { sourceCode } = context
      const inner = sourceCode.getText(object).slice(1, -1).trim().replace(/,$/, '')
      context.report({
        node: object,
        messageId: 'spread',
        fix: (fixer) => (inner ? fixer.replaceText(object.parent, inner) : null),
      })
    },
  }),
}

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.fogbath*/**',
      'packages/core/wasm/**',
      'packages/core/src/cpu/wasm-binary.ts',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  prettier,
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', ignoreRestSiblings: true, varsIgnorePattern: '^_$' },
      ],
      'no-undef': 'off',
      eqeqeq: 'error',
      'vue/multi-word-component-names': 'error',
    },
  },
  {
    // No expression over text takes longer than the text is long: what people bring may be made for it.
    files: ['packages/*/src/**/*.{ts,vue}'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }],
    },
  },
  {
    // With types: a promise that nobody waits for, and a case that nobody thought of.
    files: ['packages/*/src/**/*.{ts,vue}'],
    languageOptions: {
      parserOptions: {
        // One program for all, so that core is read once; whether the types are right is told elsewhere.
        project: './tsconfig.lint.json',
        tsconfigRootDir: import.meta.dirname,
        extraFileExtensions: ['.vue'],
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  // Not in components: what one of them exposes is known to vue-tsc alone.
  {
    files: ['packages/*/src/**/*.ts'],
    rules: { '@typescript-eslint/no-unnecessary-type-assertion': 'error' },
  },
  {
    plugins: { own: { rules: { 'no-literal-spread': noLiteralSpread } } },
    rules: { 'own/no-literal-spread': 'error' },
  },
  { files: ['**/test/**/*.ts'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
)
