import type { GlobalThemeOverrides } from 'naive-ui'

/** Reads one of the chart's colours. */
const colour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()

/** Naive UI in the chart's colours; made anew when day turns to night. */
export function naiveOverrides(): GlobalThemeOverrides {
  const [paper, sheet, ink, soft, line, tide, wash] = [
    'paper',
    'sheet',
    'ink',
    'soft',
    'line',
    'tide',
    'wash',
  ].map(colour) as [string, string, string, string, string, string, string]
  return {
    common: {
      primaryColor: tide,
      primaryColorHover: tide,
      primaryColorPressed: tide,
      primaryColorSuppl: tide,
      errorColor: colour('stop'),
      warningColor: colour('caution'),
      infoColor: colour('note'),
      successColor: colour('clear'),
      bodyColor: paper,
      cardColor: sheet,
      modalColor: sheet,
      popoverColor: sheet,
      inputColor: sheet,
      textColorBase: ink,
      textColor1: ink,
      textColor2: ink,
      textColor3: soft,
      placeholderColor: soft,
      borderColor: line,
      dividerColor: line,
      hoverColor: wash,
      borderRadius: '3px',
      borderRadiusSmall: '3px',
      fontFamily: 'Barlow, sans-serif',
      fontFamilyMono: "'JetBrains Mono', monospace",
      fontSize: '13px',
      fontSizeSmall: '12px',
      fontSizeMedium: '13px',
    },
    Input: { heightSmall: '30px', border: `1px solid ${line}` },
    Dropdown: { optionHeightSmall: '26px', fontSizeSmall: '12px' },
  }
}
