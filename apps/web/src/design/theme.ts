/** The look as one MUI theme; its colours are those of palette.ts, notices included. */
import { type PaletteOptions, createTheme } from '@mui/material/styles';
import { type Colours, colours } from './palette';

// What a module declares of its own is added to by an interface alone.
/* eslint-disable @typescript-eslint/no-empty-object-type */
declare module '@mui/material/styles' {
  interface Palette extends Colours {}
  interface PaletteOptions extends Colours {}
}
/* eslint-enable @typescript-eslint/no-empty-object-type */

const sans = "'Figtree Variable', system-ui, sans-serif";

const paletteOf = (named: Colours, primary: string): PaletteOptions => ({
  ...named,
  primary: { main: primary },
  secondary: { main: named.brass },
  error: { main: named.blocked },
  warning: { main: named.advice },
  success: { main: named.ready },
  info: { main: named.live },
  background: { default: named.paper, paper: named.card },
  text: { primary: named.ink, secondary: named['ink-2'] },
  divider: named.line,
});

/** Whoever has asked the system for less movement gets none (WCAG 2.3.3). */
const isStill = globalThis.matchMedia('(prefers-reduced-motion: reduce)').matches;
const still = {
  transitions: {
    create: () => 'none',
    duration: {
      shortest: 0,
      shorter: 0,
      short: 0,
      standard: 0,
      complex: 0,
      enteringScreen: 0,
      leavingScreen: 0,
    },
  },
};
const atOnce = isStill ? { transitionDuration: 0 } : {};

export const theme = createTheme({
  ...(isStill ? still : {}),
  cssVariables: { colorSchemeSelector: 'media', cssVarPrefix: 'shelf' },
  colorSchemes: {
    light: { palette: paletteOf(colours.light, colours.light['velvet-700']) },
    dark: { palette: paletteOf(colours.dark, colours.dark.accent) },
  },
  typography: { fontFamily: sans, fontSize: 13, button: { textTransform: 'none', fontWeight: 600 } },
  shape: { borderRadius: 6 },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: isStill } },
    MuiDialog: { defaultProps: atOnce },
    MuiDrawer: { defaultProps: atOnce },
    MuiPopover: { defaultProps: atOnce },
    MuiMenu: { defaultProps: atOnce },
    MuiCollapse: { defaultProps: isStill ? { timeout: 0 } : {} },
    MuiButton: {
      defaultProps: { size: 'small', disableElevation: true },
      styleOverrides: { root: { padding: '5px 13px', whiteSpace: 'nowrap' } },
      variants: [
        {
          props: { variant: 'outlined', color: 'inherit' },
          style: { borderColor: 'var(--shelf-palette-line-strong)' },
        },
      ],
    },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiTooltip: { defaultProps: { enterDelay: 400 } },
    MuiInputBase: { styleOverrides: { root: { fontSize: 13 } } },
    MuiFormControlLabel: { styleOverrides: { label: { fontSize: 13 } } },
    MuiMenuItem: { styleOverrides: { root: { fontSize: 13, minHeight: 30 } } },
    // Ours is darker: the library's grey is too near the ground of a page (WCAG 1.4.3).
    MuiToggleButton: { styleOverrides: { root: { color: 'var(--shelf-palette-ink-2)' } } },
    MuiTab: {
      styleOverrides: {
        root: { minHeight: 36, minWidth: 0, padding: '6px 10px', textTransform: 'none', fontWeight: 600 },
      },
    },
    MuiTabs: { styleOverrides: { root: { minHeight: 36 } } },
  },
});
