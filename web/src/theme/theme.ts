import { createTheme, type Theme } from '@mui/material'

declare module '@mui/material/styles' {
  interface Palette {
    shop: ShopColours
  }
  interface PaletteOptions {
    shop?: ShopColours
  }
}

/** Colours that MUI has no word for. */
interface ShopColours {
  /** Around the workpiece. */
  readonly surround: string
  /** Under the workpiece, seen through kerfs. */
  readonly bed: string
  readonly bar: string
  readonly panel: string
  readonly raised: string
  readonly line: string
  readonly selected: string
  /** Only for: the laser is or may be on. */
  readonly hot: string
  readonly ask: string
  readonly stop: string
  readonly note: string
  readonly halo: string
}

const LIGHT: ShopColours = {
  surround: '#eee7da',
  bed: '#2b2a28',
  bar: '#f6f1e8',
  panel: '#f6f1e8',
  raised: '#fdfaf3',
  line: '#d9cfbd',
  selected: '#e1ebea',
  hot: '#c8361b',
  ask: '#6d2a60',
  stop: '#8f1d3d',
  note: '#22303a',
  halo: '#fdfaf3',
}

const DARK: ShopColours = {
  surround: '#262624',
  bed: '#0d0d0c',
  bar: '#1c1d1d',
  panel: '#1f2020',
  raised: '#292b2b',
  line: '#45463f',
  selected: '#203a3c',
  hot: '#ff6a4a',
  ask: '#dc9fd0',
  stop: '#ff8aa5',
  note: '#cfd8dc',
  halo: '#1c1d1d',
}

export function makeTheme(mode: 'light' | 'dark'): Theme {
  const shop = mode === 'light' ? LIGHT : DARK
  const ink = mode === 'light' ? '#1d2a31' : '#efeae0'
  const quiet = mode === 'light' ? '#55605f' : '#b4b1a6'
  const primary = mode === 'light' ? '#17646b' : '#7cc7c8'
  return createTheme({
    palette: {
      mode,
      primary: { main: primary, contrastText: mode === 'light' ? '#fdfaf3' : '#10211f' },
      secondary: { main: ink },
      error: { main: shop.stop },
      text: { primary: ink, secondary: quiet },
      background: { default: shop.surround, paper: shop.raised },
      divider: shop.line,
      shop,
    },
    shape: { borderRadius: 5 },
    typography: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', 'DejaVu Sans', sans-serif",
      fontSize: 13.5,
      button: { textTransform: 'none', fontWeight: 650, fontSize: 14 },
      h1: { fontSize: 22, fontWeight: 700 },
      h2: { fontSize: 18, fontWeight: 700 },
      h3: { fontSize: 13, fontWeight: 650, color: quiet },
    },
    transitions: { create: () => 'none' },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          body: { fontSize: 14.5, lineHeight: 1.4, fontVariantNumeric: 'tabular-nums', overscrollBehavior: 'none' },
          '*:focus-visible': { outline: `2px solid ${primary}`, outlineOffset: 2 },
        },
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { fontFamily: 'inherit', fontVariantNumeric: 'inherit' } },
      },
      MuiButton: { defaultProps: { disableElevation: true }, styleOverrides: { root: { borderRadius: 8, minHeight: 38 } } },
      MuiTooltip: {
        defaultProps: { enterDelay: 400, describeChild: true },
        styleOverrides: { tooltip: { backgroundColor: ink, color: mode === 'light' ? '#fdfaf3' : '#1c1d1d', fontSize: 12.5 } },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    },
  })
}
