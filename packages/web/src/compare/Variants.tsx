import { isVariant, type Piece } from '@kelp/core';
import Close from '@mui/icons-material/Close';
import { Box, Button, IconButton, Typography } from '@mui/material';
import { lazy, memo, Suspense, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NameField } from '../fields/NameField.js';
import { useEvent } from '../state/use-event.js';
import { compared } from '../state/view-slice.js';
import { dropVariant, keepNow, putBack, renameVariant } from './variant-edits.js';

const ProofSheet = lazy(async () => ({ default: (await import('./ProofSheet.js')).ProofSheet }));

/** Kept states of the piece: keep another, put one back, compare with one; and the sheet of proofs. */
export function Variants({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const compare = useAppSelector((state) => state.view.compare);
  const [proofing, setProofing] = useState(false);
  const variants = piece.variants ?? [];
  const keep = useEvent(() => dispatch(keepNow(piece)));
  const proof = useEvent(() => setProofing(true));
  return (
    <Box component="section" aria-label="Variants" sx={{ mt: 1 }}>
      {document &&
        variants.map((variant) => {
          const present = isVariant(document, piece, variant);
          const comparing = compare?.variant === variant.id;
          return (
            <Box key={variant.id} sx={{ display: 'flex', alignItems: 'center', minHeight: 26, gap: 0.5 }}>
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <NameField
                  value={variant.name}
                  label={`Name of ${variant.name}`}
                  size={13}
                  onChange={(name) => dispatch(renameVariant(piece, variant, name))}
                />
              </Box>
              {present ? (
                <Typography variant="body2" color="textSecondary" sx={{ px: 1 }}>
                  Current
                </Typography>
              ) : (
                <>
                  <Button
                    size="small"
                    color="inherit"
                    sx={{ px: 1, minWidth: 0 }}
                    aria-label={`Restore ${variant.name}`}
                    onClick={() => dispatch(putBack(piece, variant))}
                  >
                    Restore
                  </Button>
                  <Button
                    size="small"
                    color={comparing ? 'secondary' : 'inherit'}
                    sx={{ px: 1, minWidth: 0 }}
                    aria-pressed={comparing}
                    aria-label={`Compare with ${variant.name}`}
                    onClick={() => dispatch(compared(comparing ? null : { variant: variant.id, at: 0.5 }))}
                  >
                    Compare
                  </Button>
                </>
              )}
              <IconButton aria-label={`Delete ${variant.name}`} onClick={() => dispatch(dropVariant(piece, variant))}>
                <Close sx={{ fontSize: 15 }} />
              </IconButton>
            </Box>
          );
        })}
      <KeepButtons onKeep={keep} onProof={proof} />
      <Suspense>{proofing && <ProofSheet piece={piece} onClose={() => setProofing(false)} />}</Suspense>
    </Box>
  );
}

const KeepButtons = memo(function KeepButtons({ onKeep, onProof }: { onKeep(): void; onProof(): void }) {
  return (
    <Box sx={{ display: 'flex', gap: 2, mt: 0.5 }}>
      <Button size="small" variant="outlined" color="inherit" onClick={onKeep}>
        Save variant
      </Button>
      <Button size="small" variant="outlined" color="inherit" onClick={onProof}>
        Proof sheet…
      </Button>
    </Box>
  );
});
