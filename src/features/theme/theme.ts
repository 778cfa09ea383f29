'use client';
import { createTheme } from '@mui/material/styles';

/** The feet's colours, one of each for light and dark ground. Never the only sign: left is round and L, right is square and R. */
export const FOOT_COLORS = {
  light: { left: '#C9781E', right: '#5B4BB7' },
  dark: { left: '#E39A48', right: '#A497F2' },
} as const;

const numerals = { fontVariantNumeric: 'tabular-nums lining-nums' } as const;
const serif = '"Source Serif 4 Variable", Georgia, serif';

/** A printed tide table: warm paper, deep ink, fine rules. The dark theme is the same chart under a lamp. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: {
    light: {
      palette: {
        background: { default: '#F6F3EC', paper: '#FBF9F4' },
        text: { primary: '#1F2933', secondary: '#4B5865' },
        primary: { main: '#1B6B73', contrastText: '#FFFFFF' },
        success: { main: '#4F7A3A' },
        error: { main: '#B3352B' },
        warning: { main: '#8A5A0B' },
        divider: '#CFC8B8',
      },
    },
    dark: {
      palette: {
        background: { default: '#141B21', paper: '#1B242B' },
        text: { primary: '#ECE6D8', secondary: '#B4B6AE' },
        primary: { main: '#6FC3CA', contrastText: '#0E1519' },
        success: { main: '#9CC884' },
        error: { main: '#F08C80' },
        warning: { main: '#E0B25A' },
        divider: '#3A464F',
      },
    },
  },
  shape: { borderRadius: 3 },
  typography: {
    fontFamily: '"Source Sans 3 Variable", "Segoe UI", sans-serif',
    fontSize: 13,
    body1: { fontSize: 14 },
    body2: { fontSize: 13 },
    h1: { fontFamily: serif, fontSize: '1.9rem', fontWeight: 600 },
    h2: { fontFamily: serif, fontSize: '1.15rem', fontWeight: 600 },
    h3: { fontFamily: serif, fontSize: '0.98rem', fontWeight: 600, fontStyle: 'italic' },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { ...numerals, overflow: 'hidden' },
        '*:focus-visible, .Mui-focusVisible': { outline: '2px solid var(--mui-palette-primary-main) !important', outlineOffset: 1 },
        '@media (prefers-reduced-motion: reduce)': { '*, *::before, *::after': { transition: 'none !important' } },
      },
    },
    MuiButton: { defaultProps: { disableElevation: true, size: 'small' } },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    // Beside what it explains, and gone at once when the pointer goes on: two never lie over each other.
    MuiTooltip: {
      defaultProps: {
        enterDelay: 350,
        enterNextDelay: 350,
        arrow: true,
        placement: 'left',
        disableInteractive: true,
        slotProps: { transition: { timeout: { enter: 120, exit: 0 } } },
      },
    },
    MuiTableCell: {
      styleOverrides: {
        root: { ...numerals, padding: '4px 8px', borderColor: 'var(--mui-palette-divider)' },
        head: { fontWeight: 600 },
        alignRight: { whiteSpace: 'nowrap' },
      },
    },
    MuiToggleButton: { styleOverrides: { root: { color: 'var(--mui-palette-text-secondary)', borderColor: 'var(--mui-palette-divider)' } } },
    MuiSwitch: {
      styleOverrides: { switchBase: { '&.Mui-focusVisible .MuiSwitch-thumb': { outline: '2px solid var(--mui-palette-primary-main)', outlineOffset: 1 } } },
    },
    MuiSlider: {
      styleOverrides: { thumb: { '&.Mui-focusVisible, &:has(:focus-visible)': { outline: '2px solid var(--mui-palette-text-primary)', outlineOffset: 2 } } },
    },
    MuiInputBase: { styleOverrides: { root: { '&.Mui-focused': { outline: '2px solid var(--mui-palette-primary-main)', outlineOffset: 1 } } } },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiSelect: { defaultProps: { size: 'small' } },
  },
});
