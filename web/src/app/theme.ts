import { createTheme, type Theme } from '@mui/material/styles'

export interface Ink {
  ink: string
  muted: string
  blue: string
  amber: string
  red: string
  sheet: string
  hairline: string
  select: string
  solid: string // members in 3D: stand off the sheet by 3:1 before they are lit
  fills: Record<'steel' | 'pale' | 'thread' | 'sheet', string>
}

const day: Ink = {
  ink: '#20262B',
  muted: '#5F666B',
  blue: '#1D4F91',
  amber: '#8F5500',
  red: '#A3261B',
  sheet: '#FDFCF9',
  hairline: '#CFC8BA',
  select: '#FBEBCB',
  solid: '#8195B5',
  fills: { steel: '#ECE8DC', pale: '#F1EDE3', thread: '#D9E0EC', sheet: '#FDFCF9' },
}
const night: Ink = {
  ink: '#E8E4DA',
  muted: '#A7A69F',
  blue: '#8DB6EE',
  amber: '#E5A94B',
  red: '#F08A7E',
  sheet: '#1B1F22',
  hairline: '#434A4F',
  select: '#4A3A17',
  solid: '#5F7391',
  fills: { steel: '#3A4044', pale: '#2B3034', thread: '#2A3D59', sheet: '#1B1F22' },
}

declare module '@mui/material/styles' {
  interface Theme {
    tirante: Ink & { mono: string; field: (bad: boolean, width: string) => object }
  }
  interface ThemeOptions {
    tirante?: Partial<Ink> & { mono: string; field: (bad: boolean, width: string) => object }
  }
}

const SANS = "'Hyperlegible', 'Tirante Symbols', sans-serif"
const MONO = "'Hyperlegible Mono', 'Tirante Symbols', monospace"

/** Workshop paper by day, a dim shop by night; both meet WCAG AA. */
export function makeTheme(mode: 'light' | 'dark'): Theme {
  const c = mode === 'light' ? day : night
  return createTheme({
    palette: {
      mode,
      primary: { main: c.blue, contrastText: mode === 'light' ? '#FFFFFF' : '#10151A' },
      secondary: { main: c.ink },
      warning: { main: c.amber },
      error: { main: c.red },
      text: { primary: c.ink, secondary: c.muted },
      background: { default: mode === 'light' ? '#F5F2EB' : '#14181B', paper: c.sheet },
      divider: c.hairline,
    },
    shape: { borderRadius: 3 },
    spacing: 8,
    typography: {
      fontFamily: SANS,
      fontSize: 14,
      h1: { fontSize: 19, fontWeight: 700, lineHeight: 1.25 },
      h2: { fontSize: 16, fontWeight: 700, lineHeight: 1.3 },
      h3: { fontSize: 14.5, fontWeight: 700, lineHeight: 1.3 },
      body1: { fontSize: 14.5, lineHeight: 1.4 },
      body2: { fontSize: 13.5, lineHeight: 1.4 },
      caption: { fontSize: 12.5, lineHeight: 1.3 },
      button: { textTransform: 'none', fontWeight: 600, fontSize: 14 },
    },
    components: {
      // what a colour says is said at once: half way between two tones it is neither, and fails the contrast both have
      MuiButton: {
        defaultProps: { disableElevation: true, disableRipple: true },
        styleOverrides: { root: { transition: 'none' } },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true }, styleOverrides: { root: { fontFamily: SANS } } },
      MuiToggleButton: {
        styleOverrides: {
          root: { padding: '3px 10px', fontSize: 13, lineHeight: 1.3, color: c.ink, borderColor: c.hairline },
        },
      },
      MuiCssBaseline: {
        styleOverrides: {
          body: { overflow: 'hidden', fontVariantNumeric: 'tabular-nums' },
          '*:focus-visible': { outline: `2px solid ${c.blue}`, outlineOffset: 1 },
          '@media print': { body: { overflow: 'visible' } },
        },
      },
      MuiTooltip: { defaultProps: { enterDelay: 500 } },
    },
    tirante: {
      ...c,
      mono: MONO,
      field: (bad, width) => ({
        width,
        fontFamily: MONO,
        fontSize: 14,
        color: bad ? c.red : c.blue,
        borderBottom: `1px solid ${bad ? c.red : c.hairline}`,
        '& input': { textAlign: 'right', padding: '2px 2px' },
        '&:hover': { borderBottomColor: bad ? c.red : c.blue },
        '&.Mui-focused': { borderBottomColor: bad ? c.red : c.blue, boxShadow: `0 1px 0 ${bad ? c.red : c.blue}` },
      }),
    },
  })
}
