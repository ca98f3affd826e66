import type { Bounds } from '@kelp/core';
import { Box } from '@mui/material';
import { OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useCallback, useMemo, useState } from 'react';
import { ACESFilmicToneMapping, MOUSE, PCFShadowMap } from 'three';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { lengthText } from '../fields/units.js';
import { Hand } from '../pens/Hand.js';
import { type PenReadout, Pens } from '../pens/Pens.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { PieceBody, PropBody } from './Bodies.js';
import { CameraFrame } from './CameraFrame.js';
import { CursorMark, GaugeFigure, GaugeLine } from './GaugeMark.js';
import { GuideLine } from './Handles.js';
import { LabelMover, LabelProvider } from './Labels.js';
import { PieceFlags } from './PieceFlags.js';
import { ScaleBar, ScaleProbe, type ScaleState } from './ScaleBar.js';
import { RingLabels, SeaChart } from './SeaChart.js';
import { Studio } from './Studio.js';
import { useSceneBounds } from './scene-bounds.js';
import { Hint, LookBar, PenBar } from './ViewBars.js';

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
