import { InputBase } from '@mui/material';
import { useState } from 'react';

/** A name that is edited where it stands. An empty one goes back to what it was. */
export function NameField({
  value,
  label,
  onChange,
  size = 15,
}: {
  value: string;
  label: string;
  onChange(name: string): void;
  size?: number;
}) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    const name = text?.trim().slice(0, 200);
    setText(null);
    if (name && name !== value) onChange(name);
  };
  return (
    <InputBase
      value={text ?? value}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') (event.target as HTMLElement).blur();
        if (event.key === 'Escape') setText(null);
      }}
      inputProps={{ 'aria-label': label, maxLength: 200 }}
      fullWidth
      sx={{
        fontSize: size,
        fontWeight: 600,
        '& input': {
          fieldSizing: 'content',
          maxWidth: '100%',
          minWidth: 40,
          p: 0,
          height: 'auto',
          textOverflow: 'ellipsis',
          borderRadius: '2px',
          '&:hover': { background: '#fff' },
          '&:focus': { background: '#fff', boxShadow: '0 0 0 2px #fff, 0 0 0 3px #2F6E92' },
        },
      }}
    />
  );
}
