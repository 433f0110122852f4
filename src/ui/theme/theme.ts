'use client';

import { createTheme, type Theme } from '@mui/material/styles';
import { DAYLIGHT, NIGHT, type Palette } from './palette';

declare module '@mui/material/styles' {
  interface Palette {
    lane: import('./palette').Palette;
  }
  interface PaletteOptions {
    lane: import('./palette').Palette;
  }
}

export const TEXT_FACE = '"Instrument Sans Variable", system-ui, sans-serif';
export const FIGURE_FACE = '"Spline Sans Mono Variable", ui-monospace, monospace';

/** The ring around whatever has the focus, in both themes. */
export const FOCUS_RING = { outline: '3px solid var(--mui-palette-text-primary)', outlineOffset: 2 } as const;

function scheme(roles: Palette) {
  return {
    palette: {
      lane: roles,
      primary: { main: roles.patina, contrastText: roles.raised },
      secondary: { main: roles.copper },
      error: { main: roles.brick },
      warning: { main: roles.ochre },
      success: { main: roles.patina },
      background: { default: roles.paper, paper: roles.raised },
      text: { primary: roles.ink, secondary: roles.quiet },
      divider: roles.hairline,
    },
  };
}

/** Daylight and night; the choice is kept by the browser. */
export const theme: Theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-theme' },
  colorSchemes: { light: scheme(DAYLIGHT), dark: scheme(NIGHT) },
  shape: { borderRadius: 8 },
  typography: {
    fontFamily: TEXT_FACE,
    fontSize: 13,
    body1: { fontSize: 13.5 },
    h1: { fontSize: 26, fontWeight: 650, letterSpacing: '-0.01em' },
    h2: { fontSize: 17, fontWeight: 650 },
    h3: { fontSize: 14, fontWeight: 650 },
    button: { textTransform: 'none', fontWeight: 600 },
    caption: { fontSize: 12 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: 'tabular-nums' },
        button: { fontFamily: 'inherit' },
        // Said twice, so that no component's own outline or shadow wins.
        ':focus-visible:focus-visible': FOCUS_RING,
        // What only takes the focus by program, such as a dialog as a whole, is no stop.
        '[tabindex="-1"]:focus-visible:focus-visible': { outline: 0 },
        // What draws its ring around the whole control.
        '.MuiSlider-thumb:has(:focus-visible), .MuiInputBase-root:has(:focus-visible), .MuiSwitch-root:has(:focus-visible)':
          FOCUS_RING,
        '.MuiSwitch-root:has(:focus-visible)': { borderRadius: 8 },
        '.MuiInputBase-root :focus-visible:focus-visible, .MuiSlider-thumb :focus-visible, .MuiSwitch-root :focus-visible':
          {
            outline: 0,
          },
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { disableElevation: true, size: 'small' },
      styleOverrides: {
        outlined: ({ theme: t }) => ({
          borderColor: t.vars?.palette.divider,
          color: t.vars?.palette.text.primary,
          backgroundColor: t.vars?.palette.background.paper,
        }),
      },
    },
    // Helper texts and the like; no text is smaller than 12 px.
    MuiFormHelperText: { styleOverrides: { root: { fontSize: 12 } } },
    MuiInputLabel: { styleOverrides: { shrink: { fontSize: 16 } } },
    // A sheet that fades out still takes the next press, which is meant for what lies under it: all come and go at once.
    MuiDialog: { defaultProps: { transitionDuration: 0 } },
    MuiDrawer: { defaultProps: { transitionDuration: 0 } },
    MuiPopover: { defaultProps: { transitionDuration: 0 } },
    MuiMenu: {
      defaultProps: { transitionDuration: 0, slotProps: { root: { role: 'region', 'aria-label': 'Menu' } } },
    },
    MuiMenuItem: {
      styleOverrides: {
        root: { '&.Mui-focusVisible, &.Mui-selected': { '& .MuiListItemText-secondary': { color: 'inherit' } } },
      },
    },
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiTooltip: { defaultProps: { arrow: true, enterDelay: 500, describeChild: true } },
  },
});
