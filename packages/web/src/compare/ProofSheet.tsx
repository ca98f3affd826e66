import { type DisplayUnit, isWhole, type Piece, withPiece } from '@kelp/core';
import {
  Alert,
  Box,
  Button,
  ButtonBase,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  Select,
  Skeleton,
  Typography,
} from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { useEffect, useMemo, useState } from 'react';
import { Vector3 } from 'three';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { NumberField } from '../fields/NumberField.js';
import { round, shownAs } from '../fields/units.js';
import { photograph } from '../look/photograph.js';
import { sittersOf } from '../look/sitters.js';
import { closeUpOf, standpointFor } from '../look/standpoint.js';
import { edit } from '../state/edits.js';
import { COLOURS } from '../theme/colours.js';
import { type Dial, dialsOf, firstSweep, type Proof, proofsOf, type Sweep } from './proofs.js';

/** Size of one picture, pixels: twice what is shown. */
const WIDTH = 520;
const HEIGHT = 270;
const FROM = new Vector3(0.6, 0.75, 1);

/** The piece nine times, with nine seeds or nine steps of one or two numbers; a click takes one. */
export function ProofSheet({ piece, onClose }: { piece: Piece; onClose(): void }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const dials = useMemo(() => dialsOf(piece), [piece]);
  const [first, setFirst] = useState<Sweep>(() =>
    firstSweep(
      dials.find(({ parameter }) => parameter.kind === 'seed') ??
        dials.find(({ place }) => place.stage === 'make') ??
        dials[0],
    ),
  );
  const [second, setSecond] = useState<Sweep | null>(null);
  const proofs = useMemo(() => proofsOf(piece, first, second), [piece, first, second]);
  const { pictures, problem } = usePictures(piece, proofs);
  const sweeps = second ? [first, second] : [first];
  const words = ({ values }: Proof) => values.map((value, i) => valueText(sweeps[i].dial, value, display)).join(', ');
  const take = (proof: Proof) => {
    dispatch(
      edit(`Use a proof of ${piece.name}: ${words(proof)}`, (document) =>
        withPiece(document, piece.id, () => proof.piece),
      ),
    );
    onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth={false} aria-labelledby="proof-title">
      <DialogTitle id="proof-title">Proof sheet of {piece.name}</DialogTitle>
      <DialogContent sx={{ width: 860, maxWidth: '90vw' }}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 6, mb: 3 }}>
          <SweepChoice
            label="Columns"
            dials={dials}
            sweep={first}
            display={display}
            onChange={(next) => next && setFirst(next)}
          />
          <SweepChoice
            label="Rows"
            dials={dials.filter(({ id }) => id !== first.dial.id)}
            sweep={second}
            display={display}
            optional
            onChange={setSecond}
          />
        </Box>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Box role="list" aria-label="Proofs" sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', gap: 2 }}>
          {proofs.map((proof, i) => {
            const now = proof.values.every((value, k) => value === sweeps[k].dial.value);
            const text = words(proof);
            return (
              <Box role="listitem" key={text}>
                <ButtonBase
                  onClick={() => take(proof)}
                  sx={{
                    display: 'block',
                    width: '100%',
                    border: 1,
                    borderColor: now ? COLOURS.ink : 'divider',
                    borderRadius: '3px',
                    overflow: 'hidden',
                    '&:hover': { borderColor: COLOURS.kelp },
                  }}
                >
                  <Box sx={{ position: 'relative', aspectRatio: `${WIDTH} / ${HEIGHT}`, background: COLOURS.view }}>
                    {pictures[i] ? (
                      <ProofImages {...pictures[i]} />
                    ) : (
                      <Skeleton variant="rectangular" width="100%" height="100%" />
                    )}
                  </Box>
                  <Box
                    sx={{
                      display: 'flex',
                      justifyContent: 'space-between',
                      px: 1.5,
                      py: 0.5,
                      background: COLOURS.panel,
                    }}
                  >
                    <Typography className="number" noWrap>
                      <Box component="span" sx={visuallyHidden}>
                        Use{' '}
                      </Box>
                      {text}
                    </Typography>
                    {now && (
                      <Typography variant="body2" color="textSecondary">
                        Current
                      </Typography>
                    )}
                  </Box>
                </ButtonBase>
              </Box>
            );
          })}
        </Box>
      </DialogContent>
      <DialogActions>
        <Typography color="textSecondary" sx={{ flex: 1, pl: 3 }}>
          Click a picture to use it. Undo restores the current one.
        </Typography>
        <Button color="inherit" onClick={onClose}>
          Keep current
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** A stretch close up with the whole in its corner, or the whole alone. */
const ProofImages = ({ whole, close }: ProofPicture) => (
  <>
    <Box component="img" src={close ?? whole} alt="" sx={{ width: '100%', display: 'block' }} />
    {close && (
      <Box
        component="img"
        src={whole}
        alt=""
        sx={{
          position: 'absolute',
          right: 6,
          bottom: 6,
          width: '38%',
          background: COLOURS.view,
          border: 1,
          borderColor: 'divider',
          borderRadius: '2px',
        }}
      />
    )}
  </>
);

function valueText({ parameter }: Dial, value: number, display: DisplayUnit): string {
  const { factor, unit, digits } = shownAs(parameter, display);
  return `${parameter.label} ${round(value / factor, digits)} ${unit}`.trim();
}

interface SweepChoiceProps {
  label: string;
  dials: readonly Dial[];
  sweep: Sweep | null;
  display: DisplayUnit;
  optional?: boolean;
  onChange(sweep: Sweep | null): void;
}

/** Which number is stepped, from where to where. */
function SweepChoice({ label, dials, sweep, display, optional, onChange }: SweepChoiceProps) {
  const end = (which: 'from' | 'to') => {
    if (!sweep) return null;
    const { parameter, value } = sweep.dial;
    return (
      <NumberField
        label={which === 'from' ? 'Start' : 'End'}
        help={`Value of the ${which === 'from' ? 'first' : 'last'} step.`}
        value={sweep[which]}
        min={parameter.min}
        max={parameter.max}
        comfortable={parameter.comfortable}
        initial={value}
        whole={isWhole(parameter)}
        shown={shownAs(parameter, display)}
        onChange={(next, done) => done && onChange({ ...sweep, [which]: next })}
      />
    );
  };
  return (
    <Box role="group" aria-label={label}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '84px 1fr', alignItems: 'center', gap: 2, mb: 1 }}>
        <Typography>{label}</Typography>
        <Select
          size="small"
          displayEmpty
          value={sweep?.dial.id ?? ''}
          inputProps={{ 'aria-label': `Parameter in ${label.toLowerCase()}` }}
          onChange={(event) => {
            const dial = dials.find(({ id }) => id === event.target.value);
            onChange(dial ? firstSweep(dial) : null);
          }}
        >
          {optional && <MenuItem value="">None: nine steps in order</MenuItem>}
          {dials.map((dial) => (
            <MenuItem key={dial.id} value={dial.id}>
              {dial.label}
            </MenuItem>
          ))}
        </Select>
      </Box>
      {end('from')}
      {end('to')}
    </Box>
  );
}

interface ProofPicture {
  whole: string;
  /** A stretch of what is too thin to be judged in the whole. */
  close?: string;
}

/** The place halfway along a piece. */
function middleOf({ guide }: PieceBuild): Vector3 {
  const { position } = guide;
  const i = 3 * Math.floor(position.length / 6);
  return position.length === 0 ? new Vector3() : new Vector3(position[i], position[i + 1], position[i + 2]);
}

/** All nine are computed first, so that one standpoint shows them at one scale; then they are drawn one by one. */
function usePictures(piece: Piece, proofs: readonly Proof[]): { pictures: ProofPicture[]; problem: string | null } {
  const evaluation = useEvaluation();
  const document = useAppSelector((state) => state.project.document);
  const [pictures, setPictures] = useState<ProofPicture[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let open = true;
    setPictures([]);
    setProblem(null);
    const draw = async () => {
      if (!document) return;
      const builds: PieceBuild[] = [];
      for (const proof of proofs) {
        builds.push(
          await evaluation.trial(
            withPiece(document, piece.id, () => proof.piece),
            piece.id,
            true,
          ),
        );
        if (!open) return;
      }
      const standpoint = standpointFor(
        builds.flatMap((build) => sittersOf(build).map(({ mesh }) => mesh)),
        FROM,
        WIDTH / HEIGHT,
      );
      const thickness = Math.max(...builds.map((build) => 2 * build.skeleton.near.reduce((a, b) => Math.max(a, b), 0)));
      for (const build of builds) {
        const sitters = sittersOf(build);
        const near = closeUpOf(standpoint, middleOf(build), thickness);
        const [whole, close] = await Promise.all([
          photograph(sitters, standpoint, WIDTH, HEIGHT),
          near && photograph(sitters, near, WIDTH, HEIGHT),
        ]);
        if (!open) return;
        setPictures((before) => [...before, { whole, close }]);
      }
    };
    draw().catch((error: Error) => open && setProblem(error.message));
    return () => {
      open = false;
    };
  }, [evaluation, document, piece.id, proofs]);
  return { pictures, problem };
}
