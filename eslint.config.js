import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

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
  { files: ['**/test/**/*.ts'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
)
