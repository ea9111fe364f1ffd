import type { GlobalThemeOverrides } from 'naive-ui'

/** Every colour of the interface. Greys have no hue, so that nothing near the picture misleads the eye. */
export const TOKENS = {
  dark: {
    surround: '#3a3a3a',
    ground: '#1f1f1f',
    panel: '#282828',
    raised: '#353535',
    line: '#474747',
    text: '#ececec',
    quiet: '#b4b4b4',
    accent: '#ee6a38',
    onAccent: '#1a1a1a',
    warn: '#f0b04a',
    good: '#d9d9d9',
  },
  light: {
    surround: '#8e8e8e',
    ground: '#dedede',
    panel: '#ececec',
    raised: '#f8f8f8',
    line: '#b8b8b8',
    text: '#1c1c1c',
    quiet: '#4d4d4d',
    accent: '#a83608',
    onAccent: '#ffffff',
    warn: '#7a4d00',
    good: '#2c2c2c',
  },
} as const

export type ThemeName = keyof typeof TOKENS

export const FONT = "'Archivo Narrow', 'Arial Narrow', sans-serif"
export const MONO = "'Spline Sans Mono', ui-monospace, monospace"

/** Naive UI in our colours. */
export function naiveOverrides(name: ThemeName): GlobalThemeOverrides {
  const t = TOKENS[name]
  return {
    common: {
      fontFamily: FONT,
      fontFamilyMono: MONO,
      fontSize: '14px',
      // Nothing is smaller than 13 px, no target lower than 24 (WCAG 2.2, 2.5.8).
      fontSizeMini: '13px',
      fontSizeTiny: '13px',
      heightTiny: '24px',
      borderRadius: '3px',
      primaryColor: t.accent,
      primaryColorHover: t.accent,
      primaryColorPressed: t.accent,
      primaryColorSuppl: t.accent,
      bodyColor: t.ground,
      cardColor: t.panel,
      modalColor: t.panel,
      popoverColor: t.raised,
      tableColor: t.panel,
      inputColor: t.ground,
      textColorBase: t.text,
      textColor1: t.text,
      textColor2: t.text,
      textColor3: t.quiet,
      placeholderColor: t.quiet,
      borderColor: t.line,
      dividerColor: t.line,
    },
    Button: {
      textColorPrimary: t.onAccent,
      textColorHoverPrimary: t.onAccent,
      textColorPressedPrimary: t.onAccent,
      textColorFocusPrimary: t.onAccent,
    },
    Slider: {
      fillColor: t.quiet,
      fillColorHover: t.text,
      handleColor: t.text,
      railColor: t.line,
      railColorHover: t.line,
      handleSize: '12px',
      railHeight: '2px',
    },
    // Fields keep the neutral ground while they are written in; the line around them tells.
    Input: { colorFocus: t.ground, boxShadowFocus: 'none', loadingColor: t.accent },
    Progress: { fillColor: t.accent, railColor: t.line },
    Tooltip: { color: t.raised, textColor: t.text },
  }
}

/** The same colours as CSS variables for our own styles. */
export function cssVariables(name: ThemeName): Record<string, string> {
  return Object.fromEntries(Object.entries(TOKENS[name]).map(([key, value]) => [`--${key}`, value]))
}
