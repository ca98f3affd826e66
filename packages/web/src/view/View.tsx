import { type Bounds, boundsOf, type Finding, placementMatrix, transformMesh } from '@kelp/core';
import { Box, Button, ToggleButton, ToggleButtonGroup, Tooltip, Typography } from '@mui/material';
import { OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useCallback, useMemo, useRef, useState } from 'react';
import { ACESFilmicToneMapping, MOUSE, PCFShadowMap } from 'three';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { lengthText } from '../fields/units.js';
import { Hand } from '../pens/Hand.js';
import { type PenReadout, Pens } from '../pens/Pens.js';
import { checksShown, type Look, lookChanged, type Pen, penTaken, pieceChosen } from '../state/view-slice.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { PieceBody, PropBody } from './Bodies.js';
import { CameraFrame } from './CameraFrame.js';
import { Flags } from './Flags.js';
import { CursorMark, GaugeFigure, GaugeLine } from './GaugeMark.js';
import { GuideLine } from './Handles.js';
import { LabelMover, LabelProvider } from './Labels.js';
import { ScaleBar, ScaleProbe, type ScaleState } from './ScaleBar.js';
import { RingLabels, SeaChart } from './SeaChart.js';
import { Studio } from './Studio.js';

const EMPTY_SCENE: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 0.5, 0.5] };

/** The 3D view: props, pieces, the line in hand, and the few controls that belong to looking and drawing. */
export function View() {
  const [readout, setReadout] = useState<PenReadout | null>(null);
  const [scale, setScale] = useState<ScaleState | null>(null);
  const document = useAppSelector((state) => state.project.document);
  const [frame, setFrame] = useState(0);
  const pen = useAppSelector((state) => state.view.pen);
  const bounds = useSceneBounds();
  const showReadout = useCallback((next: PenReadout | null) => setReadout(next), []);
  return (
    <Box
      component="main"
      aria-label="View"
      sx={{
        position: 'relative',
        minWidth: 0,
        minHeight: 0,
        background: COLOURS.view,
        overflow: 'hidden',
        cursor: pen ? 'crosshair' : 'default',
      }}
    >
      <LabelProvider>
        <Canvas
          frameloop="demand"
          shadows={{ type: PCFShadowMap }}
          dpr={[1, 2]}
          camera={{ fov: 32, near: 0.01, far: 400, position: [4, 3, 5] }}
          gl={{
            antialias: true,
            toneMapping: ACESFilmicToneMapping,
            toneMappingExposure: 0.98,
          }}
          onCreated={({ gl }) => {
            // asking for errors makes the page wait for each shader to be compiled
            gl.debug.checkShaderErrors = import.meta.env.DEV;
          }}
          role="img"
          aria-label="3D view of the project"
        >
          <color attach="background" args={[COLOURS.view]} />
          <Scene bounds={bounds} onReadout={showReadout} onScale={setScale} frame={frame} />
        </Canvas>
        <RingLabels bounds={bounds} />
        <PieceFlags />
        <GaugeFigure />
        <CursorMark />
      </LabelProvider>
      <PenBar />
      <LookBar onFrame={() => setFrame((count) => count + 1)} />
      {scale && <ScaleBar {...scale} />}
      {readout && document && (
        <Box
          sx={{
            position: 'fixed',
            left: readout.x + 16,
            top: readout.y + 14,
            background: COLOURS.tide,
            color: '#fff',
            font: `12px ${NUMBER_FONT}`,
            px: 1.5,
            py: 0.5,
            borderRadius: '2px',
            pointerEvents: 'none',
            zIndex: 5,
            whiteSpace: 'nowrap',
          }}
        >
          {lengthText(readout.length, document.displayUnit)}
          {pen === 'points' && ` · ${readout.points} points`}
        </Box>
      )}
      <Hint />
    </Box>
  );
}

interface SceneProps {
  bounds: Bounds;
  onReadout(readout: PenReadout | null): void;
  onScale(state: ScaleState): void;
  frame: number;
}

function Scene({ bounds, onReadout, onScale, frame }: SceneProps) {
  const document = useAppSelector((state) => state.project.document);
  const { look, piece, prop, pen } = useAppSelector((state) => state.view);
  const computed = useComputed();
  const [grabbed, setGrabbed] = useState(false);
  const props = document?.props.filter((candidate) => candidate.visible) ?? [];
  const builds = [...computed.builds.values()];
  const chosen = piece ? computed.builds.get(piece) : undefined;
  const somethingChosen = chosen !== undefined || prop !== null;
  const contentKey = useMemo(
    () => ({ builds: computed.builds, meshes: computed.meshes, props: document?.props, look }),
    [computed.builds, computed.meshes, document?.props, look],
  );
  return (
    <>
      <Studio bounds={bounds} contentKey={contentKey} />
      <SeaChart bounds={bounds} paper={COLOURS.view} />
      {props.map((candidate) => {
        const mesh = computed.meshes.get(candidate.mesh);
        return (
          mesh && (
            <PropBody
              key={candidate.id}
              prop={candidate}
              mesh={mesh}
              look={look}
              fade={somethingChosen && prop !== candidate.id}
              chosen={prop === candidate.id}
            />
          )
        );
      })}
      {builds.map((build) => (
        <PieceBody
          key={build.piece}
          build={build}
          look={look}
          fade={somethingChosen && build.piece !== piece}
          chosen={build.piece === piece}
        />
      ))}
      {chosen && !pen && <GuideLine rails={chosen.rails} />}
      {chosen && !pen && <GaugeLine />}
      <Hand onGrab={setGrabbed} />
      <Pens onReadout={onReadout} />
      <OrbitControls
        makeDefault
        enableDamping={false}
        enabled={!grabbed}
        minDistance={0.02}
        maxDistance={150}
        mouseButtons={
          pen ? { MIDDLE: MOUSE.PAN, RIGHT: MOUSE.ROTATE } : { LEFT: MOUSE.ROTATE, MIDDLE: MOUSE.PAN, RIGHT: MOUSE.PAN }
        }
      />
      <CameraFrame bounds={bounds} request={frame} />
      <ScaleProbe onChange={onScale} />
      <LabelMover />
    </>
  );
}

/** Findings of all pieces, at their places. */
function PieceFlags() {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const pen = useAppSelector((state) => state.view.pen);
  const { builds } = useComputed();
  if (pen) return null;
  return [...builds.values()].map(({ piece, findings }) => (
    <Flags
      key={piece}
      findings={flagged(findings)}
      display={display}
      onChoose={() => {
        dispatch(pieceChosen(piece));
        dispatch(checksShown(true));
      }}
    />
  ));
}

/** The worst of each kind: a view full of flags shows nothing, and the list of checks has them all. */
function flagged(findings: readonly Finding[]): readonly Finding[] {
  const worst = new Map<string, Finding>();
  for (const finding of findings) {
    const old = worst.get(finding.code);
    if (!old || excess(finding) > excess(old)) worst.set(finding.code, finding);
  }
  return [...worst.values()];
}

/** How far a finding is beyond its limit, errors before the rest. */
function excess({ severity, size }: Finding): number {
  const ratio = size && size.value > 0 && size.limit > 0 ? Math.abs(Math.log(size.value / size.limit)) : 0;
  return ratio + (severity === 'error' ? 100 : 0);
}

/** Box round all that is shown. */
function useSceneBounds(): Bounds {
  const props = useAppSelector((state) => state.project.document?.props);
  const { meshes, builds } = useComputed();
  const last = useRef<Bounds>(EMPTY_SCENE);
  return useMemo(() => {
    const all: Bounds[] = [];
    for (const { mesh: hash, placement, visible } of props ?? []) {
      const mesh = visible ? meshes.get(hash) : undefined;
      if (mesh)
        all.push(boundsOf(transformMesh({ ...mesh, index: new Uint32Array(0) }, placementMatrix(placement)).position));
    }
    for (const { rails } of builds.values()) if (rails.position.length > 0) all.push(boundsOf(rails.position));
    if (all.length === 0) return EMPTY_SCENE;
    const joined: Bounds = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
    for (const { min, max } of all)
      for (let k = 0; k < 3; k++) {
        joined.min[k] = Math.min(joined.min[k], min[k]);
        joined.max[k] = Math.max(joined.max[k], max[k]);
      }
    // light and rings follow the scene, but not every millimetre of a drag
    const moved = Math.max(
      ...[0, 1, 2].map(
        (k) => Math.abs(joined.min[k] - last.current.min[k]) + Math.abs(joined.max[k] - last.current.max[k]),
      ),
    );
    const size = Math.max(...[0, 1, 2].map((k) => joined.max[k] - joined.min[k]));
    if (moved > 0.08 * size) last.current = joined;
    return last.current;
  }, [props, meshes, builds]);
}

const PENS: { value: Pen; label: string; help: string }[] = [
  { value: 'stroke', label: 'Stroke', help: 'Press, draw over the props, let go. (S)' },
  {
    value: 'points',
    label: 'Points',
    help: 'Click point by point; Enter or a double-click ends the line, a click on the first point closes it. (P)',
  },
];

function PenBar() {
  const dispatch = useAppDispatch();
  const pen = useAppSelector((state) => state.view.pen);
  return (
    <ToggleButtonGroup
      exclusive
      value={pen}
      onChange={(_event, next: Pen | null) => dispatch(penTaken(next))}
      aria-label="Pens"
      sx={{ position: 'absolute', left: 12, top: 12 }}
    >
      {PENS.map(({ value, label, help }) => (
        <ToggleButton
          key={value}
          value={value}
          sx={{ '&.Mui-selected, &.Mui-selected:hover': { backgroundColor: COLOURS.tide } }}
        >
          <Tooltip title={help}>
            <span>{label}</span>
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

const LOOKS: { value: Look; label: string }[] = [
  { value: 'form', label: 'Form' },
  { value: 'dressed', label: 'Dressed' },
  { value: 'mesh', label: 'Mesh' },
];

function LookBar({ onFrame }: { onFrame(): void }) {
  const dispatch = useAppDispatch();
  const look = useAppSelector((state) => state.view.look);
  return (
    <Box sx={{ position: 'absolute', right: 12, top: 12, display: 'flex', gap: 2 }}>
      <Tooltip title="Bring everything, or what is chosen, into view (F)">
        <Button variant="outlined" color="inherit" onClick={onFrame} sx={{ minWidth: 0 }}>
          Frame
        </Button>
      </Tooltip>
      <ToggleButtonGroup
        exclusive
        value={look}
        onChange={(_event, next: Look | null) => next && dispatch(lookChanged(next))}
        aria-label="Look"
      >
        {LOOKS.map(({ value, label }) => (
          <ToggleButton key={value} value={value}>
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}

/** The first thing to do, while there is nothing; what the pen waits for, while one is in hand. */
function Hint() {
  const document = useAppSelector((state) => state.project.document);
  const pen = useAppSelector((state) => state.view.pen);
  if (!document) return null;
  const text =
    pen === 'stroke'
      ? 'Press on a prop and draw. Right button turns the view, Escape puts the pen away.'
      : pen === 'points'
        ? 'Click point by point. Enter ends, Backspace takes the last back, Escape puts the pen away.'
        : document.props.length === 0 && document.pieces.length === 0
          ? 'Drop a .glb or .obj file here to draw on, or take a pen and draw on the ground.'
          : document.pieces.length === 0
            ? 'Take the Stroke pen and draw a line on a prop: a cable follows it.'
            : null;
  return (
    text && (
      <Typography
        sx={{
          position: 'absolute',
          bottom: 18,
          left: '50%',
          transform: 'translateX(-50%)',
          background: `${COLOURS.panel}ee`,
          border: 1,
          borderColor: 'divider',
          borderRadius: '3px',
          px: 3,
          py: 1.5,
          pointerEvents: 'none',
          maxWidth: '60%',
          textAlign: 'center',
        }}
      >
        {text}
      </Typography>
    )
  );
}
