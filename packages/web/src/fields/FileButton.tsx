import { Button, type ButtonProps } from '@mui/material';
import { useRef } from 'react';

export interface FileButtonProps extends Pick<ButtonProps, 'variant' | 'color'> {
  label: string;
  /** Name of the file input, for those who cannot see the button. */
  inputLabel: string;
  /** Endings that the browser offers: ".glb,.obj". */
  accept: string;
  onChoose(file: File): void;
}

/** A button that asks for one file. */
export function FileButton({ label, inputLabel, accept, onChoose, ...look }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <Button {...look} onClick={() => input.current?.click()}>
      {label}
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        aria-label={inputLabel}
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) onChoose(file);
          // the same file, mended in the meantime, may be chosen again
          target.value = '';
        }}
      />
    </Button>
  );
}
