import type { Material, Mesh, Part, Prop } from '@kelp/core';
import { Edges } from '@react-three/drei';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Color } from 'three';
import type { PieceBuild } from '../evaluation/protocol.js';
import type { Look } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';
import { meshEdges, useMeshGeometry } from './geometry.js';
import { Halo } from './Halo.js';

/** Paper that all fades towards when something else is chosen. */
const PAPER = new Color(COLOURS.view);
/** The plain material of the form look: best for seeing curvature and pinches. */
const FORM: Material = { name: 'Form', colour: '#b9c6bd', roughness: 0.42, metalness: 0 };

const faded = (colour: string, share: number): string => `#${new Color(colour).lerp(PAPER, share).getHexString()}`;

/** A prop where it stands. */
export function PropBody({
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
  const { position, rotation, scale } = prop.placement;
  const colour = look === 'form' ? '#d9dbd3' : prop.colour;
  return (
    <group position={position} quaternion={rotation} scale={scale} userData={{ prop: prop.id }}>
      <mesh geometry={geometry} castShadow receiveShadow>
        <meshStandardMaterial color={fade ? faded(colour, 0.1) : colour} roughness={0.82} metalness={0} />
      </mesh>
      {look === 'mesh' && <Edges geometry={geometry} threshold={1} color="#8FA097" raycast={() => null} />}
      {chosen && <Halo mesh={mesh} />}
    </group>
  );
}

/** All parts of a piece. */
export function PieceBody({
  build,
  look,
  fade,
  chosen,
}: {
  build: PieceBuild;
  look: Look;
  fade: boolean;
  chosen: boolean;
}) {
  return (
    <group userData={{ piece: build.piece }}>
      {build.parts.map((part) => (
        <PartBody
          key={part.name}
          part={part}
          material={build.materials[part.slot]}
          look={look}
          fade={fade}
          chosen={chosen}
        />
      ))}
    </group>
  );
}

function PartBody({
  part,
  material,
  look,
  fade,
  chosen,
}: {
  part: Part;
  material: Material;
  look: Look;
  fade: boolean;
  chosen: boolean;
}) {
  const geometry = useMeshGeometry(part.mesh);
  const { colour, roughness, metalness } = look === 'dressed' ? material : FORM;
  return (
    <>
      <mesh geometry={geometry} castShadow receiveShadow>
        <meshStandardMaterial
          color={fade ? faded(colour, 0.18) : colour}
          roughness={roughness}
          metalness={metalness}
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
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute('position', new BufferAttribute(meshEdges(mesh), 3));
    return made;
  }, [mesh]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <lineSegments geometry={geometry} raycast={() => null}>
      <lineBasicMaterial color={COLOURS.ink} transparent opacity={0.5} />
    </lineSegments>
  );
}
