import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

const OTHERS = "Another feature's inside is its own: import its index."

export default tseslint.config(
  { ignores: ['src/api/generated.ts'] },
  ...tseslint.configs.recommended,
  { ...hooks.configs.flat.recommended, files: ['src/**/*.{ts,tsx}'] },
  {
    files: ['src/**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'no-restricted-imports': ['error', { patterns: [{ group: ['**/features/*/*'], message: OTHERS }] }],
    },
  },
  {
    files: ['src/features/*/*.{ts,tsx}'],
    rules: { 'no-restricted-imports': ['error', { patterns: [{ regex: '^\\.\\./[^./][^/]*/.+', message: OTHERS }] }] },
  },
  {
    files: ['src/features/*/*/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': ['error', { patterns: [{ regex: '^\\.\\./\\.\\./[^./][^/]*/.+', message: OTHERS }] }],
    },
  },
)
