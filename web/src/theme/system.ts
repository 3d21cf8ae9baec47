import { createSystem, defaultConfig, defineConfig } from "@chakra-ui/react";

const hue = (light: string, dark: string) => ({ value: { _light: light, _dark: dark } });

/** One meaning per hue; see docs/decisions. */
const config = defineConfig({
  globalCss: {
    "html, body, #root": { height: "100%" },
    "h1, h2, h3": { overflowWrap: "anywhere" },
    body: { bg: "ground", color: "ink", fontSize: "14px", lineHeight: "1.45" },
    "*:focus-visible": { outline: "2px solid", outlineColor: "slate", outlineOffset: "2px" },
    "*": {
      "@media (prefers-reduced-motion: reduce)": {
        animationDuration: "0s !important",
        transitionDuration: "0s !important",
      },
    },
  },
  theme: {
    tokens: {
      fonts: {
        heading: { value: "'Figtree Variable', sans-serif" },
        body: { value: "'Figtree Variable', sans-serif" },
        mono: { value: "'JetBrains Mono', monospace" },
      },
    },
    semanticTokens: {
      colors: {
        ground: hue("#F5F2EA", "#172127"),
        raised: hue("#EDE9DE", "#1F2B32"),
        ink: hue("#1D2A31", "#EDE9DF"),
        muted: hue("#5C646A", "#A3ACB1"),
        same: hue("#857E6C", "#7C8886"),
        hairline: hue("#D8D2C4", "#35434B"),
        clay: hue("#A34A22", "#E08A5F"),
        slate: hue("#3A5E7E", "#86AFCF"),
        loss: hue("#A3123A", "#F0708F"),
        caution: hue("#7D5A00", "#D9B35A"),
        fir: hue("#22594F", "#6DB5A5"),
        clayWash: hue("#F5E7E0", "#3A2A23"),
        slateWash: hue("#E6EBEF", "#23313C"),
        lossWash: hue("#F4E3E4", "#3A2129"),
        cautionWash: hue("#F1EAD6", "#332D1C"),
        firWash: hue("#E2EAE5", "#1E3430"),
      },
    },
  },
});

export const system = createSystem(defaultConfig, config);
