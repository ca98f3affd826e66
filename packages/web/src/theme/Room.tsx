import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { type ReactNode, useMemo } from 'react';
import { useScheme } from './scheme.js';
import { themeFor } from './theme.js';

/** The page under the scheme in force. */
export function Room({ children }: { children: ReactNode }) {
  const scheme = useScheme();
  const theme = useMemo(() => themeFor(scheme), [scheme]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      {children}
    </ThemeProvider>
  );
}
