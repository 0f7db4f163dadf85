import { createTheme, type Theme } from '@mui/material'
import { EDGE, TYPE, WEIGHT } from './tokens.ts'

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
  /** Under artwork that is shown by itself: light in both themes, as what is drawn on it is dark. */
  readonly sheet: string
}

const LIGHT: ShopColours = {
  surround: '#eee7da',
  bed: '#2b2a28',
  bar: '#f6f1e8',
  panel: '#f6f1e8',
  raised: '#fdfaf3',
  line: '#d9cfbd',
  selected: '#e1ebea',
  hot: '#bc2f15',
  ask: '#6d2a60',
  stop: '#8f1d3d',
  note: '#22303a',
  halo: '#fdfaf3',
  sheet: '#f4efe4',
}

const DARK: ShopColours = {
  surround: '#262624',
  bed: '#0d0d0c',
  bar: '#1c1d1d',
  panel: '#1f2020',
  raised: '#292b2b',
  line: '#45463f',
  selected: '#203a3c',
  hot: '#ff7d60',
  ask: '#dc9fd0',
  stop: '#ff8aa5',
  note: '#cfd8dc',
  halo: '#1c1d1d',
  sheet: '#f4efe4',
}

/** What a finger needs, px. */
const REACH = 44
/** By touch everything that is pressed is as large as a finger needs. */
const FINGER = { '@media (pointer: coarse)': { minHeight: REACH, minWidth: REACH } } as const

/** What is told in passing, in the colours of the page: each kind has its own edge. */
const told = (edges: Readonly<Record<string, string>>, style: (edge: string) => object) =>
  Object.fromEntries(Object.entries(edges).map(([kind, edge]) => [`#root .notistack-MuiContent-${kind}`, style(edge)]))

export function makeTheme(mode: 'light' | 'dark'): Theme {
  const shop = mode === 'light' ? LIGHT : DARK
  const ink = mode === 'light' ? '#1d2a31' : '#efeae0'
  const quiet = mode === 'light' ? '#55605f' : '#b4b1a6'
  const primary = mode === 'light' ? '#17646b' : '#7cc7c8'
  return createTheme({
    palette: {
      mode,
      // Under the pointer a button turns away from its words, never towards them.
      primary: {
        main: primary,
        dark: mode === 'light' ? '#10464b' : '#9ad8d9',
        contrastText: mode === 'light' ? '#fdfaf3' : '#10211f',
      },
      secondary: { main: ink },
      error: { main: shop.stop },
      text: { primary: ink, secondary: quiet },
      background: { default: shop.surround, paper: shop.raised },
      divider: shop.line,
      shop,
    },
    shape: { borderRadius: EDGE.small },
    typography: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', 'DejaVu Sans', sans-serif",
      fontSize: 13.5,
      button: { textTransform: 'none', fontWeight: WEIGHT.firm, fontSize: TYPE.body },
      h1: { fontSize: TYPE.figure, fontWeight: WEIGHT.strong },
      h2: { fontSize: TYPE.title, fontWeight: WEIGHT.strong },
      h3: { fontSize: TYPE.plain, fontWeight: WEIGHT.firm, color: quiet },
    },
    transitions: { create: () => 'none' },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          body: { fontSize: TYPE.body, lineHeight: 1.4, fontVariantNumeric: 'tabular-nums', overscrollBehavior: 'none' },
          '*:focus-visible': { outline: `2px solid ${primary}`, outlineOffset: 2 },
          // What is told lies over no block of the run line: that is pressed next.
          'body:has([data-testid=line-track]) .notistack-SnackbarContainer': { bottom: 146 },
          ...told({ default: quiet, info: primary, success: primary, warning: shop.ask, error: shop.stop }, (edge) => ({
            color: ink,
            backgroundColor: shop.raised,
            border: `1px solid ${shop.line}`,
            borderLeft: `4px solid ${edge}`,
            borderRadius: EDGE.card,
            '& svg': { color: edge },
          })),
        },
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { fontFamily: 'inherit', fontVariantNumeric: 'inherit', ...FINGER } },
      },
      MuiButton: {
        defaultProps: { disableElevation: true },
        styleOverrides: {
          root: { borderRadius: EDGE.card, minHeight: 38, whiteSpace: 'nowrap', ...FINGER },
          sizeSmall: { minHeight: 30 },
          sizeLarge: { minHeight: REACH + 2, minWidth: 0, fontSize: TYPE.plain, padding: '4px 8px' },
        },
        variants: [
          {
            props: { variant: 'outlined', color: 'secondary' },
            style: { borderColor: shop.line, backgroundColor: shop.raised },
          },
        ],
      },
      MuiIconButton: {
        styleOverrides: { root: { color: ink, ...FINGER }, sizeLarge: { width: REACH, height: REACH } },
      },
      MuiToggleButton: {
        styleOverrides: {
          root: { textTransform: 'none', color: ink, minHeight: 32, padding: '3px 10px', whiteSpace: 'nowrap', ...FINGER },
          sizeLarge: { minHeight: REACH, flex: 1, fontSize: TYPE.plain, padding: '3px 4px' },
        },
      },
      // Its knob is pressed with all of it.
      MuiSwitch: { styleOverrides: { switchBase: { '@media (pointer: coarse)': { minHeight: 0, minWidth: 0 } } } },
      MuiChip: { styleOverrides: { root: { ...FINGER } } },
      MuiMenuItem: { styleOverrides: { root: { fontSize: TYPE.body, minHeight: 34, ...FINGER } } },
      MuiLink: { styleOverrides: { root: { fontSize: 'inherit', fontWeight: WEIGHT.strong, '&:is(button)': FINGER } } },
      MuiTooltip: {
        // It never takes a press that was meant for what lies under it.
        defaultProps: { enterDelay: 400, describeChild: true, disableInteractive: true },
        styleOverrides: {
          tooltip: { backgroundColor: ink, color: mode === 'light' ? '#fdfaf3' : '#1c1d1d', fontSize: TYPE.small },
        },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    },
  })
}
