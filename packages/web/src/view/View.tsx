import type { Bounds, Prop } from '@kelp/core';
import { Box, Typography } from '@mui/material';
import { OrbitControls } from '@react-three/drei';
import { Canvas } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type Group, MOUSE, PCFShadowMap } from 'three';
import { FoldTabs } from '../app/FoldTabs.js';
import { StaggeredMount } from '../app/StaggeredMount.js';
import { useAppSelector } from '../app/store.js';
import { useKept } from '../compare/use-kept.js';
import { Wipe } from '../compare/Wipe.js';
import { WipeDivider } from '../compare/WipeDivider.js';
import { ElementGrip } from '../elements/ElementGrip.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { countText } from '../fields/units.js';
import { CursorMark, GaugeFigure, GaugeLine } from '../gauge/GaugeMark.js';
import { type PenReadout, Pens } from '../pens/Pens.js';
import { type Box as BoxOnPage, SelectTool } from '../pens/SelectTool.js';
import { PictureBody } from '../pictures/PictureBody.js';
import { Locker } from '../stem/Locker.js';
import { PickedLine } from '../strung/PickedLine.js';
import { COLOURS, faint, NUMBER_FONT } from '../theme/colours.js';
import { usePalette } from '../theme/scheme.js';
import { Tour } from '../tour/Tour.js';
import { WheelGrips } from '../wheels/WheelGrips.js';
import { ownLines, PieceBody } from './Bodies.js';
import { CameraFrame } from './CameraFrame.js';
import { ClockBar } from './ClockBar.js';
import { ContextWatch } from './ContextWatch.js';
import { GuideLine } from './Handles.js';
import { LabelMover, LabelProvider } from './Labels.js';
import { useLeftOut } from './left-out.js';
import { ClockWork } from './Moving.js';
import { PieceFlags } from './PieceFlags.js';
import { Progress } from './Progress.js';
import { PropBodies } from './PropBodies.js';
import { PropGrips } from './PropGrips.js';
import { RegionGrips } from './RegionGrips.js';
import { RestingShade } from './RestingShade.js';
import { createRenderer } from './renderer.js';
import { type PictureRequest, SavePicture } from './SavePicture.js';
import { ScaleBar, ScaleProbe, type ScaleState } from './ScaleBar.js';
import { RingLabels, SeaChart } from './SeaChart.js';
import { Studio, sphereOf } from './Studio.js';
import { useSteadyBounds } from './scene-bounds.js';
import { useShadows } from './shadows.js';
import { TextureDensity } from './TextureDensity.js';
import { Thinning } from './Thinning.js';
import { useTurningProps } from './turning-props.js';
import { UnitGrips } from './UnitGrips.js';
import { Hint, LookBar, PenBar } from './ViewBars.js';

/** How far from a thing its contact shadow is felt, as a share of the scene. */
const SHADED = 0.045;

/** The 3D view: props, pieces, the line in hand, and the few controls that belong to looking and drawing. */
export function View() {
  const [readout, setReadout] = useState<PenReadout | null>(null);
  const [scale, setScale] = useState<ScaleState | null>(null);
  const [frame, setFrame] = useState(0);
  const [picture, setPicture] = useState<PictureRequest | null>(null);
  const [lost, setLost] = useState(false);
  const [ready, setReady] = useState(false);
  const [framed, setFramed] = useState<string | null>(null);
  const [box, setBox] = useState<BoxOnPage | null>(null);
  const pen = useAppSelector((state) => state.view.pen);
  const project = useAppSelector((state) => state.project.id);
  const empty = useAppSelector(({ project: { document } }) => !document?.props.length && !document?.pieces.length);
  const bounds = useSteadyBounds();
  const palette = usePalette();
  const frameAll = useCallback(() => setFrame((count) => count + 1), []);
  const takePicture = useCallback((width: number) => setPicture({ width }), []);
  const sceneStands = useCallback(() => setReady(true), []);
  const showReadout = useCallback((next: PenReadout | null) => setReadout(next), []);
  return (
    <Box
      component="section"
      aria-label="View"
      // until its first picture is complete, and looked at from where all of it is seen
      aria-busy={!empty && framed !== project}
      sx={{
        position: 'relative',
        minWidth: 0,
        height: '100%',
        background: COLOURS.view,
        overflow: 'hidden',
        cursor: pen ? 'crosshair' : 'default',
      }}
    >
      <LabelProvider>
        <StaggeredMount order={0}>
          <Canvas
            frameloop="demand"
            shadows={{ type: PCFShadowMap }}
            dpr={[0.25, 2]}
            camera={{ fov: 32, near: 0.01, far: 400, position: [4, 3, 5] }}
            gl={createRenderer}
            onCreated={({ gl }) => {
              // asking for errors makes the page wait for each shader to be compiled
              gl.debug.checkShaderErrors = import.meta.env.DEV;
            }}
            role="img"
            aria-label="3D view of the project"
          >
            <color attach="background" args={[palette.view]} />
            <Scene
              bounds={bounds}
              onReady={sceneStands}
              onReadout={showReadout}
              onScale={setScale}
              onBox={setBox}
              onFramed={setFramed}
              frame={frame}
            />
            <SavePicture request={picture} reach={SHADED * sphereOf(bounds).reach} />
            <ContextWatch onLost={setLost} />
          </Canvas>
        </StaggeredMount>
        <RingLabels bounds={bounds} />
        <PieceFlags />
        <GaugeFigure />
        <CursorMark />
      </LabelProvider>
      <Box
        sx={{
          position: 'absolute',
          inset: '12px 12px auto',
          zIndex: 4,
          display: 'flex',
          flexWrap: 'wrap',
          alignItems: 'flex-start',
          gap: 2,
          // between its buttons the view is reached
          pointerEvents: 'none',
          '& > * > *': { pointerEvents: 'auto' },
        }}
      >
        {/* a pen that is taken before there is anything to draw on would lose the first stroke */}
        {ready && <PenBar />}
        <LookBar onFrame={frameAll} onPicture={takePicture} />
      </Box>
      <TextureDensity />
      {scale && <ScaleBar {...scale} />}
      <LeftOut />
      {readout && (
        <Box
          sx={{
            position: 'fixed',
            left: readout.x + 16,
            // beside the right edge it is on the other side of the pointer
            transform: readout.x > window.innerWidth - 480 ? 'translateX(calc(-100% - 32px))' : undefined,
            top: readout.y + 14,
            background: COLOURS.tide,
            color: COLOURS.onInk,
            font: `12px ${NUMBER_FONT}`,
            px: 1.5,
            py: 0.5,
            borderRadius: '2px',
            pointerEvents: 'none',
            zIndex: 5,
            whiteSpace: 'nowrap',
          }}
        >
          {readout.words.join(' · ')}
        </Box>
      )}
      <Progress />
      <ClockBar />
      <Locker />
      {lost && (
        <Box
          role="status"
          sx={{
            position: 'absolute',
            inset: 0,
            zIndex: 6,
            display: 'grid',
            placeItems: 'center',
            background: COLOURS.view,
          }}
        >
          <Typography>
            The graphics card lost the view. It is redrawn as soon as the card is back; nothing is lost.
          </Typography>
        </Box>
      )}
      {box && (
        <Box
          sx={{
            position: 'absolute',
            ...box,
            border: `1px dashed ${COLOURS.tide}`,
            background: faint(COLOURS.tide, 10),
            pointerEvents: 'none',
          }}
        />
      )}
      <FoldTabs />
      <Tour />
      <WipeDivider />
      <Hint />
    </Box>
  );
}

/** Says that the picture leaves small far things out, where the machine cannot draw all of them in a moment. */
function LeftOut() {
  const left = useLeftOut();
  return left > 0 ? (
    <Typography
      variant="body2"
      color="textSecondary"
      sx={{ position: 'absolute', right: 12, bottom: 8, zIndex: 3, pointerEvents: 'none' }}
    >
      {countText(left)} small distant things are hidden while moving
    </Typography>
  ) : null;
}

interface SceneProps {
  bounds: Bounds;
  /** Reported once what pens and hands hear is there. */
  onReady(): void;
  onReadout(readout: PenReadout | null): void;
  onScale(state: ScaleState): void;
  onBox(box: BoxOnPage | null): void;
  /** Called with the project that is looked at from where all of it is seen. */
  onFramed(project: string): void;
  frame: number;
}

function Scene({ bounds, onReady, onReadout, onScale, onBox, onFramed, frame }: SceneProps) {
  // not the whole document: a number that is dragged changes nothing here until the piece is built
  const allProps = useAppSelector((state) => state.project.document?.props);
  const pictures = useAppSelector((state) => state.project.document?.pictures);
  const clock = useAppSelector((state) => state.project.document?.clock);
  const { look, piece, pieces, prop, pen, seeThrough } = useAppSelector((state) => state.view);
  const made = useComputed('builds');
  const meshes = useComputed('meshes');
  const [grabbed, setGrabbed] = useState(false);
  const kept = useKept();
  const shadows = useShadows() === 'cast';
  const now = useRef<Group>(null);
  useEffect(onReady, [onReady]);
  // comparing is looking: nothing stands in the way of it
  const inHand = pen === null && kept === null;
  const groups = useMemo(() => {
    const out = new Map<string, Prop[]>();
    for (const one of allProps ?? []) if (one.visible) out.set(one.mesh, [...(out.get(one.mesh) ?? []), one]);
    return out;
  }, [allProps]);
  const turning = useTurningProps();
  const builds = [...made.values()];
  const chosen = piece ? made.get(piece) : undefined;
  const chosenProp = allProps?.find((candidate) => candidate.visible && candidate.id === prop);
  const chosenMesh = chosenProp && meshes.get(chosenProp.mesh);
  const somethingChosen = chosen !== undefined || prop !== null;
  const contentKey = useMemo(() => ({ builds: made, meshes, props: allProps, look }), [made, meshes, allProps, look]);
  return (
    <>
      <StaggeredMount order={1}>
        <SeaChart bounds={bounds} />
      </StaggeredMount>
      {/* light and what may be left out are worked out from what is here: they come together */}
      <StaggeredMount order={2}>
        <Studio bounds={bounds} contentKey={contentKey} />
        <Thinning contentKey={contentKey} />
        {[...groups].map(([hash, members]) => {
          const mesh = meshes.get(hash);
          return (
            mesh && (
              <PropBodies
                key={hash}
                mesh={mesh}
                props={members}
                look={look}
                fade={somethingChosen}
                chosen={members.some(({ id }) => id === prop) ? prop : null}
                turning={turning}
              />
            )
          );
        })}
        {pictures
          ?.filter((candidate) => candidate.visible)
          .map((candidate) => (
            <PictureBody key={candidate.id} picture={candidate} />
          ))}
        {builds.map((build) => (
          <PieceBody
            key={build.piece}
            build={build}
            look={look}
            fade={somethingChosen && !pieces.includes(build.piece)}
            chosen={pieces.includes(build.piece)}
            through={seeThrough}
            body={build.piece === piece ? now : undefined}
          />
        ))}
      </StaggeredMount>
      {kept ? (
        <Wipe now={now} kept={kept} />
      ) : (
        look !== 'mesh' && shadows && <RestingShade reach={SHADED * sphereOf(bounds).reach} />
      )}
      {chosen && inHand && (chosen.watched || !ownLines(chosen)) && (
        <GuideLine guide={chosen.watched ?? chosen.guide} dashed={chosen.watched !== null} />
      )}
      {chosen && inHand && <PickedLine guide={chosen.guide} />}
      {chosen && inHand && <GaugeLine onGrab={setGrabbed} />}
      {chosenProp && chosenMesh && !pen && <PropGrips prop={chosenProp} mesh={chosenMesh} onGrab={setGrabbed} />}
      {inHand && <UnitGrips onGrab={setGrabbed} />}
      {inHand && <WheelGrips onGrab={setGrabbed} />}
      {inHand && <RegionGrips onGrab={setGrabbed} />}
      {inHand && <ElementGrip onGrab={setGrabbed} />}
      {!kept && (
        <StaggeredMount order={3}>
          <SelectTool onGrab={setGrabbed} onBox={onBox} />
        </StaggeredMount>
      )}
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
      <CameraFrame request={frame} onFramed={onFramed} />
      {clock && <ClockWork length={clock.seconds} loop={clock.loop} />}
      <ScaleProbe onChange={onScale} />
      <LabelMover />
    </>
  );
}
