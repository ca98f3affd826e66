import { createTheme } from '@mui/material/styles';
import { COLOURS, faint, PALETTES, type Scheme, TEXT_FONT, variablesOf } from './colours.js';

/** One type scale (12/13/15/20), a 4-px grid, radius 3, no shadow but on floating things. */
export const themeFor = (scheme: Scheme) => {
  // the palette is calculated with, so it takes plain values
  const plain = PALETTES[scheme];
  return createTheme({
    spacing: 4,
    // menus and panels come at once for who asked their system for less motion
    motion: { reducedMotion: 'system' },
    shape: { borderRadius: 3 },
    palette: {
      mode: scheme === 'dim' ? 'dark' : 'light',
      background: { default: plain.ground, paper: plain.panel },
      text: { primary: plain.ink, secondary: plain.inkSecond },
      divider: plain.hairline,
      primary: { main: plain.kelp, contrastText: plain.onInk },
      secondary: { main: plain.tide, contrastText: plain.onInk },
      error: { main: plain.coral },
      warning: { main: plain.straw },
      info: { main: plain.tide },
    },
    typography: {
      fontFamily: TEXT_FONT,
      fontSize: 13,
      htmlFontSize: 16,
      body1: { fontSize: 13, lineHeight: 1.45 },
      body2: { fontSize: 12, lineHeight: 1.4 },
      subtitle1: { fontSize: 13, fontWeight: 600, lineHeight: 1.4 },
      h1: { fontSize: 20, fontWeight: 600, lineHeight: 1.3 },
      h2: { fontSize: 15, fontWeight: 600, lineHeight: 1.35 },
      caption: { fontSize: 12 },
      button: { fontSize: 13, fontWeight: 500, textTransform: 'none' },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: { ':root': { ...variablesOf(scheme), colorScheme: scheme === 'dim' ? 'dark' : 'light' } },
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { '&.Mui-focusVisible': { outline: `2px solid ${COLOURS.tide}`, outlineOffset: 1 } } },
      },
      MuiTableCell: { styleOverrides: { root: { borderBottomColor: COLOURS.hairline } } },
      MuiButton: {
        defaultProps: { disableElevation: true, size: 'small' },
        styleOverrides: {
          root: { minHeight: 28, padding: '2px 12px' },
          outlined: { borderColor: COLOURS.hairline, backgroundColor: COLOURS.field },
        },
      },
      MuiIconButton: {
        defaultProps: { size: 'small' },
        styleOverrides: { root: { borderRadius: 3, color: COLOURS.inkSecond } },
      },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            padding: '2px 10px',
            minHeight: 26,
            fontSize: 12,
            fontWeight: 500,
            color: COLOURS.ink,
            borderColor: COLOURS.hairline,
            backgroundColor: COLOURS.field,
            '&.Mui-selected, &.Mui-selected:hover': { backgroundColor: COLOURS.ink, color: COLOURS.onInk },
          },
        },
      },
      MuiSlider: {
        styleOverrides: {
          root: { height: 3, padding: '12px 0', color: COLOURS.ink, borderRadius: 2 },
          rail: { backgroundColor: COLOURS.hairline, opacity: 1 },
          track: { border: 'none' },
          thumb: {
            width: 13,
            height: 13,
            backgroundColor: COLOURS.field,
            border: `2px solid ${COLOURS.kelp}`,
            boxShadow: 'none',
            '&:hover, &.Mui-focusVisible, &.Mui-active': { boxShadow: `0 0 0 4px ${faint(COLOURS.kelp, 17)}` },
          },
        },
      },
      MuiTooltip: {
        defaultProps: { enterDelay: 500, disableInteractive: true, describeChild: true },
        styleOverrides: {
          tooltip: { fontSize: 12, backgroundColor: COLOURS.ink, color: COLOURS.onInk, maxWidth: 260 },
        },
      },
      MuiPaper: { defaultProps: { elevation: 0 } },
      MuiDialog: {
        styleOverrides: {
          paper: { border: `1px solid ${COLOURS.hairline}`, boxShadow: '0 12px 40px rgba(18, 50, 44, 0.18)' },
        },
      },
      MuiDialogTitle: { styleOverrides: { root: { fontSize: 15, fontWeight: 600, padding: '16px 24px 8px' } } },
      MuiDialogActions: { styleOverrides: { root: { padding: '8px 24px 16px' } } },
      MuiOutlinedInput: {
        styleOverrides: { root: { backgroundColor: COLOURS.field, fontSize: 13 }, input: { padding: '5px 8px' } },
      },
      MuiMenuItem: { styleOverrides: { root: { fontSize: 13, minHeight: 30 } } },
    },
  });
};
