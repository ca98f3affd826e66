import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import { COLOURS } from '../theme/colours.js';

interface ColourInputProps {
  id?: string;
  value: string;
  label?: string;
  width: number;
  height: number;
  /** `done` is false while colours are being tried. */
  onChange(colour: string, done: boolean): void;
}

/** The browser's own colour field. It reports every colour that is tried, and once more when one is taken. */
export function ColourInput({ id, value, label, width, height, onChange }: ColourInputProps) {
  const input = useRef<HTMLInputElement>(null);
  const live = useRef(onChange);
  live.current = onChange;
  useEffect(() => {
    const element = input.current;
    // React's onChange is the browser's "input"; its "change" comes when the field is left with a colour
    const taken = () => element && live.current(element.value.toLowerCase(), true);
    element?.addEventListener('change', taken);
    return () => element?.removeEventListener('change', taken);
  }, []);
  // the browser's own window is open while colours are tried: the field is set only from elsewhere
  useEffect(() => {
    if (input.current && input.current.value.toLowerCase() !== value.toLowerCase()) input.current.value = value;
  }, [value]);
  return (
    <Box
      component="input"
      ref={input}
      id={id}
      type="color"
      defaultValue={value}
      aria-label={label}
      onChange={(event) => onChange(event.target.value.toLowerCase(), false)}
      sx={{
        width,
        height,
        p: 0,
        border: `1px solid ${COLOURS.hairline}`,
        borderRadius: '3px',
        background: 'none',
        cursor: 'pointer',
        '&::-webkit-color-swatch-wrapper': { p: '1px' },
        '&::-webkit-color-swatch': { border: 0, borderRadius: '2px' },
      }}
    />
  );
}
