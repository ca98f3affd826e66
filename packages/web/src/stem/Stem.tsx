import { findUnit, isOwnDress, MAIN_SLOT, type Piece, type UnitUse } from '@kelp/core';
import { Box, Button, Typography } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { useCallback, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { Variants } from '../compare/Variants.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { NameField } from '../fields/NameField.js';
import { bytesText, countText, lengthText } from '../fields/units.js';
import { PiecePicture } from '../look/PiecePicture.js';
import { lengthOf } from '../manifest/columns.js';
import { deletePieces, lockPieces, renamePiece } from '../manifest/piece-edits.js';
import { PictureCard } from '../pictures/PictureCard.js';
import { useEvent } from '../state/use-event.js';
import { bakingShown, type Float as FloatName, floatOpened, penTaken } from '../state/view-slice.js';
import { BakeFields } from './BakeFields.js';
import { DressStage } from './DressStage.js';
import { Float } from './Float.js';
import { MakeStage } from './MakeStage.js';
import { ManyStem } from './ManyStem.js';
import { NewPieceMenu } from './NewPieceMenu.js';
import { PathStage } from './PathStage.js';
import { PropCard } from './PropCard.js';
import { ShapeStage } from './ShapeStage.js';

/** The five stages of the chosen piece; what to do first when none is chosen. */
export function Stem() {
  const document = useAppSelector((state) => state.project.document);
  const pieceId = useAppSelector((state) => state.view.piece);
  const propId = useAppSelector((state) => state.view.prop);
  const chosen = useAppSelector((state) => state.view.pieces);
  const many = document?.pieces.filter(({ id }) => chosen.includes(id)) ?? [];
  const piece = document?.pieces.find((candidate) => candidate.id === pieceId);
  const prop = document?.props.find((candidate) => candidate.id === propId);
  const pictureId = useAppSelector((state) => state.view.picture);
  const picture = document?.pictures.find((candidate) => candidate.id === pictureId);
  return (
    <Box
      component="aside"
      aria-label="Stem"
      sx={{
        background: 'background.paper',
        borderRight: 1,
        borderColor: 'divider',
        overflowY: 'auto',
        height: '100%',
        bgcolor: 'background.paper',
      }}
    >
      {many.length > 1 ? (
        <ManyStem pieces={many} />
      ) : piece ? (
        <PieceStem key={piece.id} piece={piece} />
      ) : prop ? (
        <PropCard key={prop.id} prop={prop} />
      ) : picture ? (
        <PictureCard key={picture.id} picture={picture} />
      ) : (
        <NothingChosen />
      )}
    </Box>
  );
}

function NothingChosen() {
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const pieces = useAppSelector((state) => state.project.document?.pieces.length ?? 0);
  return (
    <Box sx={{ p: 4 }}>
      <Typography variant="h2" gutterBottom>
        {pieces === 0 ? 'No pieces yet' : 'Nothing selected'}
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 3 }}>
        {pieces === 0
          ? 'Draw a line in the view, and a cable runs along it. Its settings appear here.'
          : 'Click a piece in the view or in the Manifest, or draw another line.'}
      </Typography>
      <Button variant="contained" color="secondary" onClick={() => dispatch(penTaken('stroke'))}>
        Draw a line
      </Button>
      <Button color="inherit" variant="outlined" sx={{ ml: 2 }} onClick={(event) => setAnchor(event.currentTarget)}>
        More ways…
      </Button>
      <NewPieceMenu anchor={anchor} onClose={() => setAnchor(null)} />
    </Box>
  );
}

/** What the main slot wears, and how many other slots there are. */
function dressWords({ dress }: Piece, words: (use: UnitUse) => string): string {
  const { [MAIN_SLOT]: main, ...others } = dress;
  const more = Object.keys(others).length;
  return `${isOwnDress(main) ? words(main) : 'Project material'}${more > 0 ? `, ${more} more` : ''}`;
}

function PieceStem({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.view.open);
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const build = useBuild(piece.id);
  const length = (metres: number) => lengthText(metres, display);
  const words = (use: UnitUse) => findUnit(use.unit)?.describe(use.parameters, length) ?? use.unit;
  const onOpen = useCallback((name: FloatName) => dispatch(floatOpened(name)), [dispatch]);
  const float = (name: FloatName) => ({ name, open: open === name, onOpen });
  const rename = useEvent((name: string) => dispatch(renamePiece(piece, name)));
  const shape = piece.shape.filter((use) => use.enabled).map(words);
  const summary = build
    ? `${length(lengthOf(build))} · ${countText(build.measures.triangles)} tri${build.draft || build.detail ? ' · draft' : ''}`
    : piece.visible
      ? 'Computing…'
      : 'Hidden';
  return (
    <>
      <Box sx={{ p: 3.5, pb: 2 }}>
        <Box component="h2" sx={visuallyHidden}>
          {piece.name}
        </Box>
        <Box sx={{ display: 'flex', gap: 2 }}>
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <NameField value={piece.name} label="Piece name" onChange={rename} />
            <Typography className="number" color="textSecondary">
              {summary}
            </Typography>
          </Box>
          {build && build.parts.length > 0 && <PiecePicture build={build} />}
        </Box>
        {piece.locked ? (
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
            <Typography variant="body2" color="textSecondary" sx={{ flex: 1 }}>
              Locked: clicks pass through it, and its settings are read-only.
            </Typography>
            <Button variant="outlined" color="inherit" onClick={() => dispatch(lockPieces([piece], false))}>
              Unlock
            </Button>
          </Box>
        ) : (
          <Variants piece={piece} />
        )}
      </Box>
      <Box inert={piece.locked} sx={piece.locked ? { opacity: 0.6 } : undefined}>
        <Float
          label="Path"
          summary={`${words(piece.path)}${build ? `, ${length(lengthOf(build))}` : ''}`}
          {...float('path')}
        >
          {open === 'path' && <PathStage piece={piece} />}
        </Float>
        <Float label="Shape" summary={shape.length > 0 ? shape.join(' · ') : 'None'} {...float('shape')}>
          {open === 'shape' && <ShapeStage piece={piece} />}
        </Float>
        <Float label="Make" summary={`${findUnit(piece.make.unit)?.label}, ${words(piece.make)}`} {...float('make')}>
          {open === 'make' && <MakeStage piece={piece} />}
        </Float>
        <Float label="Dress" summary={dressWords(piece, words)} {...float('dress')}>
          {open === 'dress' && <DressStage piece={piece} />}
        </Float>
        <Float
          label="Bake"
          summary={`Density ${piece.bake.density} ×${build ? `, ${bytesText(build.measures.bytes)}` : ''}`}
          last
          {...float('bake')}
        >
          {open === 'bake' && (
            <>
              <BakeFields pieces={[piece]} />
              <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
                <Button variant="contained" onClick={() => dispatch(bakingShown(true))}>
                  Bake…
                </Button>
                <Button color="inherit" onClick={() => dispatch(deletePieces([piece]))}>
                  Delete piece
                </Button>
              </Box>
            </>
          )}
        </Float>
      </Box>
    </>
  );
}
