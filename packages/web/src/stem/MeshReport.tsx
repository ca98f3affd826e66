import { boundsOf, boundsSize, flipMesh, type Mesh, type Prop, topologyOf } from '@kelp/core';
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { api } from '../api/client.js';
import { useAppDispatch } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { countText, lengthText } from '../fields/units.js';
import { edit } from '../state/edits.js';

/** Props of which people hang cables are rarely smaller or larger, metres. Common practice, no source. */
const USUAL = [0.02, 500] as const;

interface Report {
  mesh: Mesh;
  scale: number;
  /** Faces that look inwards. */
  insideOut: ReadonlySet<number>;
  openEdges: number;
  bodies: number;
  size: number;
}

/** What is wrong with a prop's mesh, looked for when asked, and what mends it. Backs of faces are hatched in the view. */
export function MeshReport({ prop, mesh }: { prop: Prop; mesh: Mesh }) {
  const dispatch = useAppDispatch();
  const evaluation = useEvaluation();
  const [report, setReport] = useState<Report | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { scale } = prop.placement;
  const look = async (now: Mesh) => {
    // what reads and writes meshes is half a glTF library: it comes when it is needed
    const { insideOutFaces } = await import('@kelp/formats');
    const { openEdges, shells } = topologyOf(now);
    const size = boundsSize(boundsOf(now.position)) * scale;
    setReport({ mesh: now, scale, insideOut: insideOutFaces(now), openEdges, bodies: shells, size });
  };
  const change = (label: string, update: (old: Prop) => Prop) =>
    dispatch(
      edit(`${label} of ${prop.name}`, (document) => ({
        ...document,
        props: document.props.map((other) => (other.id === prop.id ? update(other) : other)),
      })),
    );
  /** A mended mesh is another mesh: it goes to the server under its own name before the project names it. */
  const turnOut = async (inwards: ReadonlySet<number>) => {
    try {
      const { encodeProp } = await import('@kelp/formats');
      const { bytes, hash } = await encodeProp(turned(mesh, inwards));
      await api.putProp(hash, bytes);
      evaluation.addProp(hash, bytes);
      change('Faces', (old) => ({ ...old, mesh: hash }));
      setReport(null);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const current = report?.mesh === mesh && report.scale === scale ? report : null;
  const improbable = current && (current.size < USUAL[0] || current.size > USUAL[1]);
  return (
    <Box sx={{ mt: 3 }}>
      {!current ? (
        <Button variant="outlined" color="inherit" onClick={() => look(mesh)}>
          Inspect mesh
        </Button>
      ) : (
        <>
          <Typography gutterBottom>
            {current.bodies === 1 ? 'One body' : `${countText(current.bodies)} bodies`},{' '}
            {current.openEdges === 0 ? 'closed' : `${countText(current.openEdges)} open edges`},{' '}
            {lengthText(current.size, 'm')} across.
          </Typography>
          {current.insideOut.size > 0 && (
            <Alert severity="warning" sx={{ mb: 1 }}>
              {countText(current.insideOut.size)} faces are inside out, hatched in the view.
              <Button size="small" color="inherit" onClick={() => turnOut(current.insideOut)}>
                Flip faces outwards
              </Button>
            </Alert>
          )}
          {Math.abs(scale - 1) > 1e-6 && (
            <Alert severity="info" sx={{ mb: 1 }}>
              Scaled by {+scale.toPrecision(3)} relative to the file.
            </Alert>
          )}
          {improbable && (
            <Alert severity="warning" sx={{ mb: 1 }}>
              {current.size < USUAL[0] ? 'Very small' : 'Very large'}: check the file's unit.
              {[0.001, 0.01, 100, 1000]
                .filter((factor) => current.size * factor > USUAL[0] && current.size * factor < USUAL[1])
                .map((factor) => (
                  <Button
                    key={factor}
                    size="small"
                    color="inherit"
                    onClick={() =>
                      change('Scale', (old) => ({ ...old, placement: { ...old.placement, scale: scale * factor } }))
                    }
                  >
                    × {factor}
                  </Button>
                ))}
            </Alert>
          )}
          {current.insideOut.size === 0 && !improbable && (
            <Typography color="textSecondary">No problems found.</Typography>
          )}
        </>
      )}
      {problem && <Alert severity="error">{problem}</Alert>}
    </Box>
  );
}

/** The bodies that look inwards turned out, the others as they are. */
function turned(mesh: Mesh, inwards: ReadonlySet<number>): Mesh {
  const flipped = flipMesh(mesh);
  const isTurned = new Uint8Array(mesh.position.length / 3);
  const index = mesh.index.slice();
  for (const face of inwards)
    for (let k = 0; k < 3; k++) {
      index[3 * face + k] = flipped.index[3 * face + k];
      isTurned[mesh.index[3 * face + k]] = 1;
    }
  const normal = mesh.normal.map((value, i) => (isTurned[Math.floor(i / 3)] ? -value : value));
  return { ...mesh, index, normal };
}
