import type { WheelPick, WheelsParameter } from '@kelp/core';
import Close from '@mui/icons-material/Close';
import { Box, Button, IconButton, MenuItem, Select, ToggleButton, Tooltip, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { newId } from '../state/edits.js';
import { penTakenInto } from '../state/view-slice.js';
import { LabelTip } from './LabelTip.js';
import { NumberField } from './NumberField.js';
import type { Of } from './ParameterControl.js';
import { METRES } from './units.js';

/** A size of its own is at least so large, metres, and at most. */
const [MIN_RADIUS, MAX_RADIUS] = [1e-4, 1000];

/** Wheels in the order in which the belt meets them: each with its side, a size of its own where it has one, and whether it takes up. */
export function WheelsControl({ parameter, value, display, onChange }: Of<WheelsParameter>) {
  const dispatch = useAppDispatch();
  const piece = useAppSelector((state) => state.project.document?.pieces.find(({ id }) => id === state.view.piece));
  const props = useAppSelector((state) => state.project.document?.props);
  const wheels = value as readonly WheelPick[];
  const shared = Number(piece?.path.parameters[parameter.radius] ?? parameter.default.length);
  const change = (i: number, next: Partial<WheelPick>, done = true) =>
    onChange(wheels.with(i, { ...wheels[i], ...next }), done);
  /** Those without a key of theirs are as all others. */
  const without = (i: number, key: 'radius' | 'outside' | 'takesUp') => {
    const { [key]: _gone, ...rest } = wheels[i];
    onChange(wheels.with(i, rest), true);
  };
  return (
    <Box role="group" aria-label={parameter.label} sx={{ mb: 1 }}>
      <LabelTip help={parameter.help}>
        <Typography sx={{ mb: 0.5 }}>{parameter.label}</Typography>
      </LabelTip>
      <Box sx={{ display: 'flex', gap: 1, mb: 0.5 }}>
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          disabled={!piece}
          sx={{ whiteSpace: 'nowrap', flexShrink: 0 }}
          onClick={() => piece && dispatch(penTakenInto({ pen: 'wheels', piece: piece.id }))}
        >
          Click in view
        </Button>
        <Select
          size="small"
          fullWidth
          displayEmpty
          value=""
          renderValue={() => 'Add a prop…'}
          onChange={(event) => {
            const prop = props?.find(({ id }) => id === event.target.value);
            if (prop) onChange([...wheels, { id: newId(), position: prop.placement.position, prop: prop.id }], true);
          }}
          inputProps={{ 'aria-label': `Add a prop to ${parameter.label}` }}
          sx={{ '& .MuiSelect-select': { py: '4px' } }}
        >
          {(props ?? []).map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </Select>
      </Box>
      {wheels.map((wheel, i) => {
        const name = wheel.prop
          ? (props?.find(({ id }) => id === wheel.prop)?.name ?? 'deleted prop')
          : `Wheel ${i + 1}`;
        return (
          <Box key={wheel.id} role="group" aria-label={name} sx={{ borderTop: 1, borderColor: 'divider', py: 0.5 }}>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
              <Typography variant="body2" noWrap sx={{ flex: 1 }}>
                {i + 1}. {name}
              </Typography>
              <Mark
                words="The belt runs along the outside of this wheel"
                label="Outside the loop"
                on={wheel.outside === true}
                onChange={(on) => (on ? change(i, { outside: true }) : without(i, 'outside'))}
              />
              <Mark
                words="This wheel slides until the belt has the set length"
                label="Tensioner"
                on={wheel.takesUp === true}
                onChange={(on) =>
                  onChange(
                    wheels.map(({ takesUp: _was, ...rest }, k) => (on && k === i ? { ...rest, takesUp: true } : rest)),
                    true,
                  )
                }
              />
              <Mark
                words="Use a custom radius for this wheel"
                label="Custom radius"
                on={wheel.radius !== undefined}
                onChange={(on) => (on ? change(i, { radius: shared }) : without(i, 'radius'))}
              />
              <IconButton
                size="small"
                aria-label={`Remove ${name}`}
                onClick={() => onChange(wheels.toSpliced(i, 1), true)}
                sx={{ p: 0.25 }}
              >
                <Close sx={{ fontSize: 16 }} />
              </IconButton>
            </Box>
            {wheel.radius !== undefined && (
              <NumberField
                label={`Radius of ${name}`}
                short="Radius"
                help="Radius of this wheel, up to the belt’s contact surface."
                value={wheel.radius}
                min={MIN_RADIUS}
                max={MAX_RADIUS}
                comfortable={[0.01, 1]}
                initial={shared}
                shown={{ unit: display, factor: METRES[display], digits: 4 }}
                onChange={(radius, done) => change(i, { radius }, done)}
              />
            )}
          </Box>
        );
      })}
    </Box>
  );
}

function Mark({
  label,
  words,
  on,
  onChange,
}: {
  label: string;
  words: string;
  on: boolean;
  onChange(on: boolean): void;
}) {
  return (
    <Tooltip title={words}>
      <ToggleButton
        size="small"
        value="on"
        selected={on}
        onChange={() => onChange(!on)}
        sx={{ px: 0.5, py: 0, fontSize: 11, lineHeight: '18px' }}
      >
        {label}
      </ToggleButton>
    </Tooltip>
  );
}
