import { findUnit, newShape, type Piece, type ShapeUse, unitsOf, withPiece } from '@kelp/core';
import ArrowDownward from '@mui/icons-material/ArrowDownward';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, Menu, MenuItem, Switch, Tooltip, Typography } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import { edit } from '../state/edits.js';
import { UnitParameters } from './UnitParameters.js';
import { WatchButton } from './WatchButton.js';

/** How the line is bent: any number of operations, in order, each switchable. */
export function ShapeStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const change = (label: string, shape: (old: ShapeUse[]) => ShapeUse[]) =>
    dispatch(
      edit(`${label} of ${piece.name}`, (document) =>
        withPiece(document, piece.id, (now) => ({ ...now, shape: shape(now.shape) })),
      ),
    );
  return (
    <>
      {piece.shape.map((use, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: operations are known by their place in the chain
        <Box key={index} sx={{ mb: 2, borderTop: index > 0 ? 1 : 0, borderColor: 'divider', pt: index > 0 ? 1 : 0 }}>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Tooltip title={findUnit(use.unit)?.purpose ?? ''} placement="left">
              <Typography sx={{ flex: 1, fontWeight: 600 }}>{findUnit(use.unit)?.label}</Typography>
            </Tooltip>
            <WatchButton stage={index + 1} label={`Show the line after ${findUnit(use.unit)?.label}`} />
            <IconButton
              aria-label="Move up"
              disabled={index === 0}
              onClick={() => change('Reorder', (old) => swapped(old, index, index - 1))}
            >
              <ArrowUpward sx={{ fontSize: 16 }} />
            </IconButton>
            <IconButton
              aria-label="Move down"
              disabled={index === piece.shape.length - 1}
              onClick={() => change('Reorder', (old) => swapped(old, index, index + 1))}
            >
              <ArrowDownward sx={{ fontSize: 16 }} />
            </IconButton>
            <IconButton
              aria-label={`Remove ${findUnit(use.unit)?.label}`}
              onClick={() => change('Shape', (old) => old.filter((_, i) => i !== index))}
            >
              <DeleteOutlined sx={{ fontSize: 17 }} />
            </IconButton>
            <Switch
              size="small"
              checked={use.enabled}
              onChange={(_event, enabled) =>
                change('Shape', (old) => old.map((other, i) => (i === index ? { ...other, enabled } : other)))
              }
              slotProps={{ input: { 'aria-label': `${findUnit(use.unit)?.label} enabled` } }}
            />
          </Box>
          {use.enabled && <UnitParameters piece={piece} place={{ stage: 'shape', index }} use={use} />}
        </Box>
      ))}
      <Button
        variant="outlined"
        color="inherit"
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
      >
        Add operation…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {unitsOf('shape').map((unit) => (
          <MenuItem
            key={unit.id}
            onClick={() => {
              setAnchor(null);
              change(`Add ${unit.label.toLowerCase()}`, (old) => [...old, newShape(unit.id)]);
            }}
          >
            <Box>
              <Typography sx={{ fontWeight: 600 }}>{unit.label}</Typography>
              <Typography variant="body2" color="textSecondary">
                {unit.purpose}
              </Typography>
            </Box>
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

function swapped(list: ShapeUse[], a: number, b: number): ShapeUse[] {
  const out = [...list];
  [out[a], out[b]] = [out[b], out[a]];
  return out;
}
