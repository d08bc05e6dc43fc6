import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  {
    ignores: [
      'dist',
      'target',
      'node_modules',
      'src/api/schema.ts',
      'src/api/rulebook.ts',
      'eslint.config.js',
      'first-load.mjs',
    ],
  },
  js.configs.recommended,
  ts.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true } } },
  hooks.configs.flat.recommended,
  a11y.flatConfigs.recommended,
  prettier,
  {
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
    },
  },
);
