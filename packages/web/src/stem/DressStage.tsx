import {
  findUnit,
  freeName,
  inOutfit,
  isOwnDress,
  knownUnit,
  MAIN_SLOT,
  newUse,
  type Piece,
  type SlotDress,
  unitOf,
  unitsOf,
  withPiece,
} from '@kelp/core';
import { Box, Button, MenuItem, Select, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { edit, newId } from '../state/edits.js';
import { UnitParameters } from './UnitParameters.js';

/** What a choice of the list represents: ids hold no spaces. */
const OWN = 'custom';
const AS_MADE = 'default';

/** The piece's materials, slot by slot: a few to start from, then their numbers, or one of the project's. */
export function DressStage({ piece }: { piece: Piece }) {
  const build = useBuild(piece.id);
  const declared = knownUnit('make', piece.make.unit)?.slots ?? [];
  const worn = build?.parts.map(({ slot }) => slot) ?? [];
  const slots = [...new Set([MAIN_SLOT, ...declared.map(({ id }) => id), ...worn])];
  const label = (slot: string) =>
    declared.find(({ id }) => id === slot)?.label ?? (slot === MAIN_SLOT ? 'Surface' : slot);
  const strands = (slot: string) => build?.parts.some((part) => part.kind === 'strands' && part.slot === slot) ?? false;
  return (
    <>
      <Outfits piece={piece} />
      {slots.map((slot) => (
        <SlotCard
          key={slot}
          piece={piece}
          slot={slot}
          label={slots.length > 1 ? label(slot) : null}
          strands={strands(slot)}
        />
      ))}
    </>
  );
}

/** What all its slots wear together, at one stroke. */
function Outfits({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const outfits = knownUnit('make', piece.make.unit)?.outfits ?? [];
  if (outfits.length === 0) return null;
  return (
    <Box component="section" aria-label="Outfits" sx={{ mb: 2 }}>
      <Typography sx={{ fontWeight: 600, mb: 0.5 }}>Outfits</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        {outfits.map((outfit) => (
          <Button
            key={outfit.id}
            variant="outlined"
            color="inherit"
            onClick={() =>
              dispatch(
                edit(`${outfit.label} for ${piece.name}`, (document) =>
                  withPiece(document, piece.id, (now) => inOutfit(now, outfit)),
                ),
              )
            }
          >
            {outfit.label}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

interface SlotCardProps {
  piece: Piece;
  slot: string;
  label: string | null;
  /** It is worn by strands. */
  strands: boolean;
}

function SlotCard({ piece, slot, label, strands }: SlotCardProps) {
  const dispatch = useAppDispatch();
  const materials = useAppSelector((state) => state.project.document?.materials) ?? [];
  const dress: SlotDress | undefined = piece.dress[slot];
  const own = isOwnDress(dress) ? dress : undefined;
  const named = dress && !isOwnDress(dress) ? dress.material : undefined;
  const wear = (next: SlotDress | undefined, words: string) =>
    dispatch(
      edit(`${words} for ${piece.name}`, (document) =>
        withPiece(document, piece.id, (now) => {
          const { [slot]: _, ...others } = now.dress;
          return { ...now, dress: next ? { ...others, [slot]: next } : others };
        }),
      ),
    );
  const keep = () => {
    if (!own) return;
    const id = newId();
    dispatch(
      edit(`Save the material of ${piece.name}`, (document) => ({
        ...withPiece(document, piece.id, (now) => ({ ...now, dress: { ...now.dress, [slot]: { material: id } } })),
        materials: [...document.materials, { id, name: freeName(piece.name, document.materials), dress: own }],
      })),
    );
  };
  const choose = (value: string) => {
    if (value === AS_MADE) wear(undefined, 'Default');
    else if (value === OWN) {
      const from = materials.find(({ id }) => id === named)?.dress;
      wear(from ?? newUse('dress', 'plain'), 'Custom material');
    } else wear({ material: value }, materials.find(({ id }) => id === value)?.name ?? 'Project material');
  };
  const unit = own && findUnit(own.unit);
  const kinds = unitsOf('dress').filter(({ id, forStrands }) => !forStrands || strands || id === own?.unit);
  return (
    <Box component="section" aria-label={label ?? 'Material'} sx={{ mb: 2 }}>
      {label && <Typography sx={{ fontWeight: 600, mb: 0.5 }}>{label}</Typography>}
      {(materials.length > 0 || slot !== MAIN_SLOT) && (
        <Select
          size="small"
          fullWidth
          value={own ? OWN : (named ?? AS_MADE)}
          onChange={(event) => choose(event.target.value)}
          inputProps={{ 'aria-label': `Material of ${label ?? 'the piece'}` }}
          sx={{ mb: 1.5, '& .MuiSelect-select': { py: '4px' } }}
        >
          {slot !== MAIN_SLOT && <MenuItem value={AS_MADE}>Default</MenuItem>}
          <MenuItem value={OWN}>Custom</MenuItem>
          {materials.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
          {named && !materials.some(({ id }) => id === named) && <MenuItem value={named}>Deleted material</MenuItem>}
        </Select>
      )}
      {own && unit && (
        <>
          {kinds.length > 1 && (
            <ToggleButtonGroup
              exclusive
              size="small"
              value={own.unit}
              onChange={(_, next: string | null) => next && wear(newUse('dress', next), unitOf('dress', next).label)}
              aria-label="Material type"
              sx={{ mb: 1.5 }}
            >
              {kinds.map(({ id, label: kind }) => (
                <ToggleButton key={id} value={id}>
                  {kind}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
          )}
          <Box sx={{ display: 'flex', gap: 1.5, mb: 2, flexWrap: 'wrap' }}>
            {unit.presets.map((preset) => (
              <Button
                key={preset.id}
                variant="outlined"
                color="inherit"
                onClick={() => wear(newUse('dress', unitOf('dress', own.unit).id, preset.id), preset.label)}
              >
                {preset.label}
              </Button>
            ))}
          </Box>
          <UnitParameters piece={piece} place={{ stage: 'dress', slot }} use={own} />
          <Button size="small" color="inherit" onClick={keep} sx={{ px: 0 }}>
            Save as project material
          </Button>
        </>
      )}
    </Box>
  );
}
