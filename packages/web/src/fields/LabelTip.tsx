import { Tooltip } from '@mui/material';
import { type ReactElement, useRef } from 'react';

/** Labels take two lines rather than being cut. */
export const LABEL = { lineHeight: 1.15, overflowWrap: 'break-word' } as const;

/** The help of a control, beside the whole row: over its label it would lie on the controls below. */
export function LabelTip({ help, children }: { help: string; children: ReactElement<Record<string, unknown>> }) {
  const place = useRef<HTMLElement>(null);
  const row = {
    getBoundingClientRect: () => (place.current?.parentElement ?? document.body).getBoundingClientRect(),
  };
  return (
    <Tooltip title={help} placement="right" ref={place} slotProps={{ popper: { anchorEl: row } }}>
      {children}
    </Tooltip>
  );
}
