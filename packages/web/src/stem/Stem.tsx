import { findUnit, type Piece, type UnitUse, withoutPiece, withPiece } from '@kelp/core';
import { Box, Button, Typography } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { NameField } from '../fields/NameField.js';
import { NumberField } from '../fields/NumberField.js';
import { bytesText, countText, lengthText } from '../fields/units.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { bakingShown, type Float as FloatName, floatOpened, penTaken, pieceChosen } from '../state/view-slice.js';
import { DressStage } from './DressStage.js';
import { Float } from './Float.js';
import { MakeStage } from './MakeStage.js';
import { PathStage } from './PathStage.js';
import { PropCard } from './PropCard.js';
import { ShapeStage } from './ShapeStage.js';

/** The five stages of the chosen piece; what to do first when none is chosen. */
export function Stem() {
  const document = useAppSelector((state) => state.project.document);
  const pieceId = useAppSelector((state) => state.view.piece);
  const propId = useAppSelector((state) => state.view.prop);
  const piece = document?.pieces.find((candidate) => candidate.id === pieceId);
  const prop = document?.props.find((candidate) => candidate.id === propId);
  return (
    <Box
      component="aside"
      aria-label="Stem"
      sx={{
        background: 'background.paper',
        borderRight: 1,
        borderColor: 'divider',
        overflowY: 'auto',
        minHeight: 0,
        bgcolor: 'background.paper',
      }}
    >
      {piece ? (
        <PieceStem key={piece.id} piece={piece} />
      ) : prop ? (
        <PropCard key={prop.id} prop={prop} />
      ) : (
        <NothingChosen />
      )}
    </Box>
  );
}

function NothingChosen() {
  const dispatch = useAppDispatch();
  const pieces = useAppSelector((state) => state.project.document?.pieces.length ?? 0);
  return (
    <Box sx={{ p: 4 }}>
      <Typography variant="h2" gutterBottom>
        {pieces === 0 ? 'No piece yet' : 'Nothing chosen'}
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 3 }}>
        {pieces === 0
          ? 'Draw a line in the view and a cable runs along it. Everything else is tuned from here.'
          : 'Click a piece in the view or in the manifest to tune it, or draw another line.'}
      </Typography>
      <Button variant="contained" color="secondary" onClick={() => dispatch(penTaken('stroke'))}>
        Draw a line
      </Button>
    </Box>
  );
}

function PieceStem({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.view.open);
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const { builds } = useComputed();
  const build = builds.get(piece.id);
  const length = (metres: number) => lengthText(metres, display);
  const words = (use: UnitUse) => findUnit(use.unit)?.describe(use.parameters, length) ?? use.unit;
  const float = (name: FloatName) => ({ open: open === name, onOpen: () => dispatch(floatOpened(name)) });
  const shape = piece.shape.filter((use) => use.enabled).map(words);
  const summary = build
    ? `${length(build.measures.length)} · ${countText(build.measures.triangles)} tri${build.draft ? ' · draft' : ''}`
    : piece.visible
      ? 'Computing…'
      : 'Hidden';
  return (
    <>
      <Box sx={{ p: 3.5, pb: 2 }}>
        <Box component="h2" sx={visuallyHidden}>
          {piece.name}
        </Box>
        <NameField
          value={piece.name}
          label="Name of the piece"
          onChange={(name) =>
            dispatch(edit('Rename a piece', (document) => withPiece(document, piece.id, (now) => ({ ...now, name }))))
          }
        />
        <Typography className="number" color="textSecondary">
          {summary}
        </Typography>
      </Box>
      <Float
        label="Path"
        summary={`${words(piece.path)}${build ? `, ${length(build.measures.length)}` : ''}`}
        {...float('path')}
      >
        <PathStage piece={piece} />
      </Float>
      <Float label="Shape" summary={shape.length > 0 ? shape.join(' · ') : 'As drawn'} {...float('shape')}>
        <ShapeStage piece={piece} />
      </Float>
      <Float label="Make" summary={`${findUnit(piece.make.unit)?.label}, ${words(piece.make)}`} {...float('make')}>
        <MakeStage piece={piece} />
      </Float>
      <Float label="Dress" summary={words(piece.dress)} {...float('dress')}>
        <DressStage piece={piece} />
      </Float>
      <Float
        label="Bake"
        summary={`Density ${piece.bake.density} ×${build ? `, ${bytesText(build.measures.bytes)}` : ''}`}
        last
        {...float('bake')}
      >
        <NumberField
          label="Density"
          help="Factor on all divisions of this piece."
          value={piece.bake.density}
          min={0.05}
          max={20}
          comfortable={[0.25, 4]}
          initial={1}
          shown={{ factor: 1, unit: '×', digits: 2 }}
          onChange={(density, done) => {
            dispatch(
              edit(
                `Density of ${piece.name}`,
                (document) => withPiece(document, piece.id, (now) => ({ ...now, bake: { density } })),
                `${piece.id} density`,
              ),
            );
            if (done) dispatch(gestureEnded());
          }}
        />
        <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
          <Button variant="contained" onClick={() => dispatch(bakingShown(true))}>
            Bake…
          </Button>
          <Button
            color="inherit"
            onClick={() => {
              dispatch(edit(`Delete ${piece.name}`, (document) => withoutPiece(document, piece.id)));
              dispatch(pieceChosen(null));
            }}
          >
            Delete the piece
          </Button>
        </Box>
      </Float>
    </>
  );
}
