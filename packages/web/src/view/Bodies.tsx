import type { Material, Mesh, Part, Prop } from '@kelp/core';
import { Edges } from '@react-three/drei';
import { memo, type Ref, useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Color, type Group } from 'three';
import type { PieceBuild } from '../evaluation/protocol.js';
import type { Look } from '../state/view-slice.js';
import { usePalette } from '../theme/scheme.js';
import { meshEdges, useMeshGeometry } from './geometry.js';
import { Halo } from './Halo.js';
import { hatchedBack } from './hatch.js';
import { RailLines } from './RailLines.js';

/** The plain material of the form look: best for seeing curvature and pinches. */
const FORM: Material = { name: 'Form', colour: '#b9c6bd', roughness: 0.42, metalness: 0 };

/** Towards the paper, where something else is chosen. */
const faded = (colour: string, paper: string, share: number): string =>
  `#${new Color(colour).lerp(new Color(paper), share).getHexString()}`;

/** A prop where it stands. */
export const PropBody = memo(function PropBody({
  prop,
  mesh,
  look,
  fade,
  chosen,
}: {
  prop: Prop;
  mesh: Mesh;
  look: Look;
  fade: boolean;
  chosen: boolean;
}) {
  const geometry = useMeshGeometry(mesh);
  const palette = usePalette();
  const { position, rotation, scale } = prop.placement;
  const colour = look === 'form' ? '#d9dbd3' : prop.colour;
  return (
    <group position={position} quaternion={rotation} scale={scale} userData={{ prop: prop.id }}>
      <mesh geometry={geometry} castShadow receiveShadow>
        <meshStandardMaterial color={fade ? faded(colour, palette.view, 0.1) : colour} roughness={0.82} metalness={0} />
      </mesh>
      {/* the back of a face is hatched: what looks inwards, or stands open, shows at once */}
      <mesh geometry={geometry} material={hatchedBack(palette)} dispose={null} raycast={() => null} />
      {look === 'mesh' && <Edges geometry={geometry} threshold={1} color="#8FA097" raycast={() => null} />}
      {chosen && <Halo mesh={mesh} />}
    </group>
  );
});

/** All parts of a piece. */
export const PieceBody = memo(function PieceBody({
  build,
  look,
  fade,
  chosen,
  through,
  body,
}: {
  build: PieceBuild;
  look: Look;
  fade: boolean;
  chosen: boolean;
  /** Seen through, while a key is held. */
  through: boolean;
  body?: Ref<Group>;
}) {
  const palette = usePalette();
  const asLine = build.detail === 'path';
  const shown = asLine ? [] : build.parts;
  const colour = Object.values(build.materials)[0]?.colour ?? palette.ink;
  return (
    <group ref={body} userData={{ piece: build.piece }}>
      {shown.map((part) => (
        <PartBody
          key={part.name}
          part={part}
          material={build.materials[part.slot]}
          look={look}
          fade={fade}
          chosen={chosen && !through}
          through={through}
        />
      ))}
      {asLine && (
        <RailLines rails={build.rails} colour={chosen ? palette.ink : faded(colour, palette.view, fade ? 0.18 : 0)} />
      )}
    </group>
  );
});

function PartBody({
  part,
  material,
  look,
  fade,
  chosen,
  through,
}: {
  part: Part;
  material: Material;
  look: Look;
  fade: boolean;
  chosen: boolean;
  through: boolean;
}) {
  const geometry = useMeshGeometry(part.mesh);
  const palette = usePalette();
  const { colour, roughness, metalness } = look === 'dressed' ? material : FORM;
  return (
    <>
      <mesh geometry={geometry} castShadow={!through} receiveShadow>
        <meshStandardMaterial
          color={fade ? faded(colour, palette.view, 0.18) : colour}
          roughness={roughness}
          metalness={metalness}
          transparent={through}
          opacity={through ? 0.18 : 1}
          depthWrite={!through}
          polygonOffset={look === 'mesh'}
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </mesh>
      {look === 'mesh' && <TrueEdges mesh={part.mesh} />}
      {chosen && <Halo mesh={part.mesh} />}
    </>
  );
}

function TrueEdges({ mesh }: { mesh: Mesh }) {
  const { ink } = usePalette();
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute('position', new BufferAttribute(meshEdges(mesh), 3));
    return made;
  }, [mesh]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <lineSegments geometry={geometry} raycast={() => null}>
      <lineBasicMaterial color={ink} transparent opacity={0.5} />
    </lineSegments>
  );
}
