import { type BakeSettings, testCube } from '@kelp/core';
import { type BakeFormat, isGltf } from '@kelp/formats';
import { Button } from '@mui/material';
import { offer } from '../app/offer.js';

const AS_IT_IS = { unit: 'm', up: 'y', hand: 'right' } as const;

/** Saves a cube of one metre in the same way as a bake: with it unit and axes are tried in the next program. */
export function TestCube({ format, settings }: { format: BakeFormat; settings: BakeSettings }) {
  const save = async () => {
    // what writes files is loaded by who needs it
    const { writeBaked } = await import('@kelp/formats');
    const target = isGltf(format) ? AS_IT_IS : settings;
    const bytes = writeBaked(format, { meshes: [testCube(target)] }, 'Test cube', { unit: target.unit, up: target.up });
    offer(new Blob([bytes as Uint8Array<ArrayBuffer>]), `test-cube.${format}`);
  };
  return (
    <Button
      size="small"
      color="inherit"
      variant="outlined"
      sx={{ mt: 1 }}
      disabled={format === 'csv' || format === 'svg'}
      onClick={() => void save()}
    >
      Save a test cube
    </Button>
  );
}
