/** The look as one MUI theme; the tokens themselves are CSS (tokens.css), light and dark. */
import { createTheme } from '@mui/material/styles';

const sans = "'Figtree Variable', system-ui, sans-serif";

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'media' },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: '#3d1b36' },
        secondary: { main: '#8a6314' },
        error: { main: '#a3262a' },
        background: { default: '#faf7f1', paper: '#ffffff' },
        text: { primary: '#241b22', secondary: '#6a5e66' },
        divider: '#e6ddd0',
      },
    },
    dark: {
      palette: {
        primary: { main: '#c79abb' },
        secondary: { main: '#dcb25e' },
        error: { main: '#f0898c' },
        background: { default: '#191417', paper: '#221b20' },
        text: { primary: '#f1e9ee', secondary: '#bfb0b9' },
        divider: '#3a3036',
      },
    },
  },
  typography: { fontFamily: sans, fontSize: 13, button: { textTransform: 'none', fontWeight: 600 } },
  shape: { borderRadius: 6 },
  components: {
    MuiButton: {
      defaultProps: { size: 'small', disableElevation: true },
      styleOverrides: { root: { padding: '5px 13px', whiteSpace: 'nowrap' } },
    },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiTooltip: { defaultProps: { enterDelay: 400 } },
    MuiInputBase: { styleOverrides: { root: { fontSize: 13 } } },
    MuiMenuItem: { styleOverrides: { root: { fontSize: 13, minHeight: 30 } } },
    MuiTab: {
      styleOverrides: {
        root: { minHeight: 36, minWidth: 0, padding: '6px 10px', textTransform: 'none', fontWeight: 600 },
      },
    },
    MuiTabs: { styleOverrides: { root: { minHeight: 36 } } },
  },
});
