import js from '@eslint/js'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'
import prettier from 'eslint-config-prettier'
import globals from 'globals'

/** What Prettier formats is not judged here; what it cannot break is: no line over 120 characters. */
export default ts.config(
  { ignores: ['dist', 'public', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  prettier,
  {
    languageOptions: { globals: globals.browser, parserOptions: { parser: ts.parser } },
    rules: {
      'vue/max-len': ['error', { code: 120, template: 120, ignoreUrls: true }],
      // Names on the screen are one word here.
      'vue/multi-word-component-names': 'off',
      // Undefined is what a property that was left out is.
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
)
