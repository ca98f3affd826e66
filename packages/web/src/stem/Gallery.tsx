import { knownUnit } from '@kelp/core';
import { Box, ButtonBase, Typography } from '@mui/material';
import { memo, type RefObject, useEffect, useRef, useState } from 'react';
import { Color, Vector3 } from 'three';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { keptPicture } from '../look/kept-pictures.js';
import { photograph } from '../look/photograph.js';
import { COLOURS } from '../theme/colours.js';

/** Size of a picture, pixels: twice what is shown, for sharp screens. */
const WIDTH = 184;
const HEIGHT = 124;
const FROM = new Vector3(0.5, 2.4, 2.9);

/** The presets of one unit, as pictures of the real thing. */
export const Gallery = memo(function Gallery({
  unit: chosenUnit,
  preset: chosenPreset,
  onTake,
}: {
  /** What is chosen; no preset once its numbers were changed. */
  unit: string;
  preset: string | null;
  onTake(unit: string, preset: string): void;
}) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1.5, mb: 3 }}>
      {knownUnit('make', chosenUnit)?.presets.map((preset) => (
        <PresetCard
          key={preset.id}
          unit={chosenUnit}
          preset={preset.id}
          label={preset.label}
          isChosen={chosenPreset === preset.id}
          onTake={onTake}
        />
      ))}
    </Box>
  );
});

interface PresetCardProps {
  unit: string;
  preset: string;
  label: string;
  isChosen: boolean;
  onTake(unit: string, preset: string): void;
  /** Called when the pointer or the keyboard rests on it, and when it leaves. */
  onRest?(resting: boolean): void;
}

/** One preset: its picture, drawn when it is first seen, and its name. */
export function PresetCard({ unit, preset, label, isChosen, onTake, onRest }: PresetCardProps) {
  const frame = useRef<HTMLButtonElement>(null);
  const picture = usePicture(unit, preset, useSeen(frame));
  return (
    <ButtonBase
      ref={frame}
      data-preset={`${unit} ${preset}`}
      onMouseEnter={() => onRest?.(true)}
      onMouseLeave={() => onRest?.(false)}
      onFocus={() => onRest?.(true)}
      onBlur={() => onRest?.(false)}
      onClick={() => onTake(unit, preset)}
      aria-pressed={isChosen}
      sx={{
        flexDirection: 'column',
        alignItems: 'stretch',
        border: 1,
        borderColor: isChosen ? COLOURS.ink : 'divider',
        borderRadius: '3px',
        background: COLOURS.field,
        overflow: 'hidden',
        '&:hover': { borderColor: COLOURS.kelp },
      }}
    >
      <Box sx={{ aspectRatio: '124 / 84', background: COLOURS.view, display: 'grid' }}>
        {picture && (
          <Box component="img" src={picture} alt="" sx={{ width: '100%', height: '100%', display: 'block' }} />
        )}
      </Box>
      <Typography
        variant="body2"
        sx={{ px: 1, py: 0.75, textAlign: 'left', whiteSpace: 'nowrap', fontWeight: isChosen ? 600 : 400 }}
      >
        {label}
      </Typography>
    </ButtonBase>
  );
}

/** Pictures that were made, by unit and preset; they look the same in every project. */
const pictures = new Map<string, string>();

/** True from when an element first comes into sight. */
function useSeen(element: RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!element.current) return;
    const observer = new IntersectionObserver(([entry]) => entry.isIntersecting && setSeen(true));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return seen;
}

function usePicture(unit: string, preset: string, seen: boolean): string | null {
  const evaluation = useEvaluation();
  const key = `${unit} ${preset}`;
  const [url, setUrl] = useState(pictures.get(key) ?? keptPicture(unit, preset) ?? null);
  useEffect(() => {
    let open = true;
    const draw = async () => {
      const sitters = await evaluation.sample(unit, preset);
      // a dark jacket shows no shape at this size: every colour is brought towards the middle
      const lit = sitters.map(({ mesh, material }) => ({
        mesh,
        material: {
          ...material,
          colour: `#${new Color(material.colour).lerp(new Color('#8fa89c'), 0.45).getHexString()}`,
        },
      }));
      const made = await photograph(lit, FROM, WIDTH, HEIGHT);
      pictures.set(key, made);
      if (open) setUrl(made);
    };
    // a picture that fails leaves its frame empty
    if (seen && !pictures.has(key) && !keptPicture(unit, preset)) draw().catch(() => {});
    return () => {
      open = false;
    };
  }, [evaluation, unit, preset, key, seen]);
  return url;
}
