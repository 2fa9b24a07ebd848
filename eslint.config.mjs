// The rules of oxlint (.oxlintrc.json) hold for all code. Here is what only ESLint can check: the rules of
// React's compiler and our own.
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';
import { noStateWhileDrawing } from './scripts/lint/no-state-while-drawing.mjs';

// The rules of React's compiler take half of the time: `npm test` leaves them to `npm run check` and to the
// long tests (JIKO_LINT=quick).
const hookRules = process.env.JIKO_LINT === 'quick' ? {} : hooks.configs.recommended.rules;

export default tseslint.config(
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    languageOptions: { parser: tseslint.parser },
    // A line may be let off a rule that only the other program or the whole check knows.
    linterOptions: { reportUnusedDisableDirectives: 'off' },
    plugins: {
      'react-hooks': hooks,
      jiko: { rules: { 'no-state-while-drawing': noStateWhileDrawing } },
    },
    rules: {
      ...hookRules,
      'jiko/no-state-while-drawing': 'error',
      'no-restricted-syntax': [
        'error',
        {
          // A sheet is saved with the version it was made from.
          selector:
            "CallExpression[callee.name='request'][arguments.length>2] > MemberExpression[object.name='api'][property.name='boards']",
          message: 'sheets are saved by data/save-sheet.ts',
        },
        {
          // A screen reader says "segmented control" where no name is given.
          selector:
            'JSXOpeningElement[name.name="Segmented"]:not(:has(> JSXAttribute[name.name=/^aria-label/]))',
          message: 'say with aria-label what is chosen',
        },
      ],
    },
  },
  {
    files: ['packages/web/src/data/save-sheet.ts'],
    rules: { 'no-restricted-syntax': 'off' },
  },
);
