import { createSystem, defaultBaseConfig, defineConfig, defineRecipe } from "@chakra-ui/react";
import { keeping } from "./keeping";
import { semanticColors } from "./themes";

/** Buttons: plain, main, quiet (in running text) and chosen. */
export const buttonRecipe = defineRecipe({
  base: {
    display: "inline-flex",
    position: "relative",
    alignItems: "center",
    gap: "6px",
    font: "inherit",
    fontSize: "body",
    lineHeight: "1.2",
    color: "fg",
    bg: "transparent",
    borderWidth: "1px",
    borderStyle: "solid",
    borderColor: "edge",
    borderRadius: "3px",
    px: "10px",
    py: "5px",
    // As large as a thumb needs on a phone, whatever is written on it.
    minH: { base: "44px", lg: "24px" },
    minW: { base: "44px", lg: "24px" },
    justifyContent: "center",
    cursor: "pointer",
    whiteSpace: "nowrap",
    _hover: { borderColor: "fg" },
    _disabled: { color: "muted", borderColor: "line", cursor: "default" },
  },
  variants: {
    look: {
      plain: {},
      main: { bg: "accent", color: "onAccent", borderColor: "accent", fontWeight: 600, _disabled: { bg: "raised" } },
      quiet: {
        borderColor: "transparent",
        px: "6px",
        textDecoration: "underline",
        textUnderlineOffset: "3px",
        _hover: { borderColor: "edge" },
        _disabled: { borderColor: "transparent", textDecoration: "none", opacity: 0.6 },
      },
      chosen: { borderColor: "accent", color: "accent", fontWeight: 600 },
    },
  },
  defaultVariants: { look: "plain" },
});

/** Text fields and select boxes. */
export const inputRecipe = defineRecipe({
  base: {
    font: "inherit",
    fontFamily: "mono",
    // Below 16 px a phone zooms into the field.
    fontSize: { base: "lead", lg: "body" },
    fontVariantNumeric: "tabular-nums",
    color: "fg",
    bgColor: "bg",
    borderWidth: "1px",
    borderStyle: "solid",
    borderColor: "edge",
    borderRadius: "3px",
    px: "8px",
    py: "4px",
    minWidth: 0,
    minHeight: { base: "44px", lg: "0" },
    width: "100%",
    _invalid: { borderColor: "rust", borderWidth: "2px" },
  },
});

/** What opens over the page: a menu, a calendar, a working. */
export const FLOATING = {
  bg: "panel",
  color: "fg",
  borderWidth: "1px",
  borderStyle: "solid",
  borderColor: "edge",
  borderRadius: "4px",
  outline: "none",
} as const;

/** A small button in a line of words: on a phone a thumb reaches it above and below, and the line stays as high as it is. */
export const REACH = {
  position: "relative",
  _after: {
    content: '""',
    position: "absolute",
    insetInline: "0",
    top: "50%",
    height: { base: "44px", lg: "24px" },
    transform: "translateY(-50%)",
  },
} as const;

/** Everything that is common to all screens: roles of colour, two typefaces, a few recipes. */
export const made = createSystem(
  defaultBaseConfig,
  defineConfig({
    cssVarsPrefix: "lr",
    conditions: { paper: "[data-theme=paper] &", ember: "[data-theme=ember] &" },
    globalCss: {
      html: { colorScheme: "dark" },
      "html[data-theme=paper]": { colorScheme: "light" },
      "html, body, #root": {
        margin: 0,
        minHeight: "100%",
        bg: "bg",
        color: "fg",
        _print: { bg: "white", color: "black" },
      },
      body: { fontFamily: "body", fontSize: "body", lineHeight: "1.4" },
      "*, *::before, *::after": { boxSizing: "border-box" },
      "h1, h2, h3, p, ul, ol, dl, dd, figure": { margin: 0, padding: 0 },
      "ul, ol": { listStyle: "none" },
      // A link that stands alone is as large as a thumb needs; one in a sentence is a word of it.
      a: { color: "inherit", minHeight: "24px", minWidth: "24px" },
      // On a phone its words reach as far as a thumb; the line it stands in stays as high as it is.
      "a:not([class]), nav a": { paddingBlock: { base: "12px", lg: "0" } },
      button: { minHeight: { base: "44px", lg: "0" } },
      "label:has(> input[type=checkbox]), label:has(> input[type=radio]), summary": {
        minHeight: { base: "44px", lg: "24px" },
      },
      // The browser's own controls bring colours of their own; Ember must not show any.
      "input[type=checkbox]": {
        appearance: "none",
        width: "16px",
        height: "16px",
        margin: 0,
        borderWidth: "1.5px",
        borderStyle: "solid",
        borderColor: "edge",
        borderRadius: "2px",
        bg: "bg",
        _checked: { bg: "accent", borderColor: "accent", boxShadow: "inset 0 0 0 2.5px var(--lr-colors-bg)" },
      },
      select: {
        appearance: "none",
        backgroundImage:
          "linear-gradient(45deg, transparent 50%, var(--lr-colors-muted) 50%), linear-gradient(135deg, var(--lr-colors-muted) 50%, transparent 50%)",
        backgroundPosition: "right 13px center, right 8px center",
        backgroundSize: "5px 5px",
        backgroundRepeat: "no-repeat",
        textOverflow: "ellipsis",
      },
      // So does the button of a file field.
      "input::file-selector-button": {
        font: "inherit",
        color: "fg",
        bg: "transparent",
        borderWidth: "1px",
        borderStyle: "solid",
        borderColor: "edge",
        borderRadius: "3px",
        px: "10px",
        py: "8px",
        mr: "10px",
      },
      option: { bg: "panel", color: "fg" },
      "input::placeholder": { color: "muted", opacity: 0.75 },
      "::selection": { bg: "accent", color: "onAccent" },
      "button, input, select, textarea": { font: "inherit", color: "inherit" },
      ":focus-visible": { outline: "2px solid var(--lr-colors-accent)", outlineOffset: "2px" },
      "svg text": { fontFamily: "var(--lr-fonts-body)" },
      // A photograph has colours of its own: at night only its red is shown.
      "html[data-theme=ember] [data-backdrop]": { filter: "url(#only-red)" },
      "svg .figure": { fontFamily: "var(--lr-fonts-mono)", fontVariantNumeric: "tabular-nums" },
    },
    theme: {
      // From here on there is room for a drawing and its dials side by side.
      breakpoints: { lg: "960px" },
      tokens: {
        fonts: {
          body: { value: "'Hanken Grotesk Variable', 'Helvetica Neue', Arial, sans-serif" },
          mono: { value: "'Spline Sans Mono Variable', 'DejaVu Sans Mono', monospace" },
        },
        // All sizes there are; drawings use the first three as figures, a printed card its own in em.
        fontSizes: {
          note: { value: "12px" },
          small: { value: "13px" },
          lead: { value: "16px" },
          heading: { value: "18px" },
          title: { value: "24px" },
          display: { value: "44px" },
        },
      },
      semanticTokens: {
        colors: semanticColors(),
        fontSizes: { body: { value: { base: "15px", lg: "14px" } } },
      },
    },
  }),
);

export const system = keeping(made);

/** A role as a colour for SVG attributes. */
export const ink = (role: string): string =>
  `var(--lr-colors-${role.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)})`;
