import { boundsOf, type KelpDocument, type Placement, type Prop } from '@kelp/core';
import { Box, Button, FormControlLabel, Switch, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { NameField } from '../fields/NameField.js';
import { NumberField } from '../fields/NumberField.js';
import { countText, METRES, sizeText } from '../fields/units.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { penTaken, propChosen } from '../state/view-slice.js';
import { MeshReport } from './MeshReport.js';

const withProp = (document: KelpDocument, id: string, change: (prop: Prop) => Prop): KelpDocument => ({
  ...document,
  props: document.props.map((prop) => (prop.id === id ? change(prop) : prop)),
});

/** A prop: its size, where it is, and what can be done with it. What is held on it rides along. */
export function PropCard({ prop }: { prop: Prop }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const meshes = useComputed('meshes');
  const failed = useComputed('failed');
  const mesh = meshes.get(prop.mesh);
  const bounds = mesh && boundsOf(mesh.position);
  const size =
    bounds &&
    sizeText(
      [0, 1, 2].map((k) => (bounds.max[k] - bounds.min[k]) * prop.placement.scale),
      display,
    );
  const change = (label: string, update: (old: Prop) => Prop, gesture?: string) =>
    dispatch(edit(`${label} of ${prop.name}`, (document) => withProp(document, prop.id, update), gesture));
  const place = (name: string, update: (old: Placement) => Placement, done: boolean) => {
    change(name, (old) => ({ ...old, placement: update(old.placement) }), `${prop.id} ${name}`);
    if (done) dispatch(gestureEnded());
  };
  return (
    <Box sx={{ p: 3.5 }}>
      <NameField value={prop.name} label="Prop name" onChange={(name) => change('Name', (old) => ({ ...old, name }))} />
      <Typography className="number" color="textSecondary" gutterBottom>
        {mesh ? `${countText(mesh.index.length / 3)} faces · ${size}` : (failed.get(prop.mesh) ?? 'Loading…')}
      </Typography>
      <FormControlLabel
        control={
          <Switch
            size="small"
            checked={prop.visible}
            onChange={(_event, visible) => change('Visibility', (old) => ({ ...old, visible }))}
          />
        }
        label="Visible and solid"
      />
      <Box sx={{ my: 2 }}>
        {(['X', 'Y', 'Z'] as const).map((axis, k) => (
          <NumberField
            key={axis}
            label={`Position ${axis}`}
            help="Position of the prop."
            value={prop.placement.position[k]}
            min={-1e5}
            max={1e5}
            comfortable={[-5, 5]}
            initial={0}
            shown={{ factor: METRES[display], unit: display, digits: 1 }}
            onChange={(value, done) =>
              place(
                `Position ${axis}`,
                (old) => ({ ...old, position: old.position.with(k, value) as Placement['position'] }),
                done,
              )
            }
          />
        ))}
        <NumberField
          label="Rotation"
          help="Rotation around the vertical axis."
          value={2 * Math.atan2(prop.placement.rotation[1], prop.placement.rotation[3])}
          min={-2 * Math.PI}
          max={2 * Math.PI}
          comfortable={[-Math.PI, Math.PI]}
          initial={0}
          shown={{ factor: Math.PI / 180, unit: '°', digits: 1 }}
          onChange={(angle, done) =>
            place('Rotate', (old) => ({ ...old, rotation: [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)] }), done)
          }
        />
        <NumberField
          label="Scale"
          help="Size relative to the file."
          value={prop.placement.scale}
          min={1e-6}
          max={1e6}
          comfortable={[0.1, 10]}
          initial={1}
          shown={{ factor: 1, unit: '×', digits: 3 }}
          onChange={(scale, done) => place('Scale', (old) => ({ ...old, scale }), done)}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <Button variant="contained" color="secondary" onClick={() => dispatch(penTaken('stroke'))}>
          Draw on it
        </Button>
        <Button
          color="inherit"
          onClick={() => {
            dispatch(
              edit(`Delete ${prop.name}`, (document) => ({
                ...document,
                props: document.props.filter((other) => other.id !== prop.id),
              })),
            );
            dispatch(propChosen(null));
          }}
        >
          Delete prop
        </Button>
      </Box>
      {mesh && <MeshReport prop={prop} mesh={mesh} />}
    </Box>
  );
}
