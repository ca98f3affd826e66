import type { Picture } from '@kelp/core';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { type MouseEvent, useState } from 'react';
import { api } from '../api/client.js';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NumberField } from '../fields/NumberField.js';
import { METRES } from '../fields/units.js';
import { COLOURS, faint } from '../theme/colours.js';
import { changePicture } from './picture-edits.js';

/** Two places on the picture and the distance that lies between them: from these follows its size. */
export function SizeByPoints({ picture, onClose }: { picture: Picture; onClose(): void }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  /** In shares of the picture's width and height, from its top left. */
  const [places, setPlaces] = useState<[number, number][]>([]);
  const [distance, setDistance] = useState(1);
  const put = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const place: [number, number] = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    setPlaces(places.length === 2 ? [place] : [...places, place]);
  };
  const [a, b] = places;
  // in widths of the picture
  const apart = a && b ? Math.hypot(b[0] - a[0], (b[1] - a[1]) * picture.aspect) : 0;
  const take = () => {
    dispatch(
      changePicture(picture.id, `Size of ${picture.name}`, (old) => {
        const width = distance / apart;
        // its foot stays where it is
        const lift = old.plane === 'top' ? 0 : ((width - old.width) * old.aspect) / 2;
        return { ...old, width, position: [old.position[0], old.position[1] + lift, old.position[2]] };
      }),
    );
    onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" aria-labelledby="size-title">
      <DialogTitle id="size-title">Set size by two points</DialogTitle>
      <DialogContent>
        <Typography gutterBottom>
          {places.length === 0
            ? 'Click one end of a known length.'
            : places.length === 1
              ? 'Click the other end.'
              : 'Type the length.'}
        </Typography>
        <Box
          sx={{
            position: 'relative',
            display: 'block',
            width: 'fit-content',
            minWidth: 480,
            cursor: 'crosshair',
            lineHeight: 0,
          }}
          onClick={put}
        >
          <Box
            component="img"
            src={api.propUrl(picture.image)}
            alt={picture.name}
            // as large as there is room, whatever its pixels: two points are clicked on it
            sx={{ width: `min(100%, ${(52 / picture.aspect).toFixed(2)}vh)`, aspectRatio: 1 / picture.aspect }}
          />
          {places.map(([x, y]) => (
            <Box
              key={`${x} ${y}`}
              sx={{
                position: 'absolute',
                left: `${100 * x}%`,
                top: `${100 * y}%`,
                width: 12,
                height: 12,
                transform: 'translate(-50%, -50%)',
                border: `2px solid ${COLOURS.tide}`,
                background: faint(COLOURS.field, 66),
                borderRadius: '50%',
              }}
            />
          ))}
        </Box>
        <Box sx={{ mt: 2, maxWidth: 320 }}>
          <NumberField
            label="Distance"
            help="Real distance between the two points."
            value={distance}
            min={1e-6}
            max={1e5}
            comfortable={[0.01, 5]}
            initial={1}
            shown={{ factor: METRES[display], unit: display, digits: 2 }}
            onChange={setDistance}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={apart < 1e-3} onClick={take}>
          Set size
        </Button>
      </DialogActions>
    </Dialog>
  );
}
