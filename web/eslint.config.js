import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import vitest from "@vitest/eslint-plugin";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["tools", "dist", "coverage", "src/api/schema.ts", "*.config.*"] },
  js.configs.recommended,
  ...ts.configs.strictTypeChecked,
  a11y.flatConfigs.recommended,
  hooks.configs.flat.recommended,
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: false }],
    },
  },
  {
    files: ["src/**/*.tsx"],
    ignores: ["src/**/*.test.tsx", "src/testing/**"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: "JSXText[value=/[A-Za-z]{2}/]:not([value=/^\\s*Kavrin\\s*$/])",
          message: "Words stand in the catalogue: phrase(…).",
        },
        {
          selector:
            "JSXAttribute[name.name=/^(aria-label|label|title|placeholder|what|under|name|hint|note|says|none|back|alt)$/] > Literal[value=/^[A-Z][a-z]| [a-z]/]",
          message: "Words stand in the catalogue: phrase(…).",
        },
      ],
    },
  },
  {
    files: ["src/**/*.test.{ts,tsx}"],
    plugins: { vitest },
    rules: {
      "vitest/expect-expect": ["error", { assertFunctionNames: ["expect", "assert", "fc.assert"] }],
      "vitest/no-focused-tests": "error",
      "vitest/no-disabled-tests": "error",
      "vitest/valid-expect": "error",
    },
  },
);
