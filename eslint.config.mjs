import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

/** Core has no clock of its own, no chance and no I/O. */
const PURE = [
  {
    selector: "MemberExpression[object.name='Date'][property.name='now']",
    message: 'Core has no clock of its own: take now as an argument.',
  },
  { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'Core has no clock of its own: take now as an argument.' },
  {
    selector: "MemberExpression[object.name='Math'][property.name='random']",
    message: 'Core is the same for the same input: take what is random as an argument.',
  },
  { selector: 'Identifier[name=/^(process|window|document|fetch|localStorage|setTimeout|setInterval)$/]', message: 'Core has no I/O.' },
];

export default tseslint.config(
  { ignores: ['node_modules', 'dist', '.angular', '.drumline', '**/*.css'] },
  {
    files: ['**/*.ts'],
    extends: [tseslint.configs.recommended, prettier],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-console': ['error', { allow: ['error', 'log'] }],
      eqeqeq: 'error',
      'max-params': ['error', 3],
    },
  },
  // A property takes one parameter for each generator.
  { files: ['**/*.spec.ts'], rules: { 'max-params': ['error', 6] } },
  { files: ['packages/core/src/**/*.ts'], ignores: ['**/*.spec.ts'], rules: { 'no-restricted-syntax': ['error', ...PURE] } },
  {
    files: ['packages/web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'dl', style: 'kebab-case' }],
      '@angular-eslint/component-class-suffix': 'off',
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@typescript-eslint/no-unused-expressions': 'off',
    },
  },
  {
    files: ['packages/web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/label-has-associated-control': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/mouse-events-have-key-events': 'off',
    },
  },
);
