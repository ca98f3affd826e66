import { tidyName } from '@kelp/core';
import { InputBase } from '@mui/material';
import { memo, useState } from 'react';
import { COLOURS } from '../theme/colours.js';

/** A name that is edited where it is. An empty one goes back to what it was. */
export const NameField = memo(function NameField({
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
    const name = tidyName(text ?? '', value);
    setText(null);
    if (name !== value) onChange(name);
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
          '&:hover': { background: COLOURS.field },
          '&:focus': { background: COLOURS.field, boxShadow: `0 0 0 2px ${COLOURS.field}, 0 0 0 3px ${COLOURS.tide}` },
        },
      }}
    />
  );
});
