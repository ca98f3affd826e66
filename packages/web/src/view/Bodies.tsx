import {
  type Material,
  type Mesh,
  type MeshPart,
  type Part,
  type PlacedPart,
  partCounts,
  type RideTrack,
  realMesh,
  type SlideTrack,
  type StrandsPart,
} from '@kelp/core';
import { memo, type Ref, type RefObject, useEffect, useImperativeHandle, useMemo, useRef } from 'react';
import {
  BufferAttribute,
  BufferGeometry,
  type Group,
  MeshStandardMaterial,
  type MeshStandardMaterialParameters,
} from 'three';
import type { PieceBuild } from '../evaluation/protocol.js';
import { useClockMoved } from '../state/clock.js';
import type { Look } from '../state/view-slice.js';
import { usePalette } from '../theme/scheme.js';
import { faded } from './faded.js';
import { GuideLines } from './GuideLines.js';
import { meshEdges, useMeshGeometry } from './geometry.js';
import { Halo } from './Halo.js';
import { Instances } from './Instances.js';
import { Moving } from './Moving.js';
import { drawnTriangles, Strands } from './Strands.js';
import type { Weighable } from './Thinning.js';
import { checker, NOTHING_WORN, type Worn, wear, wornBy } from './textures.js';
import { usePictureTexture } from './use-picture.js';
import { useSliding } from './use-sliding.js';

/** The plain material of the form look: best for seeing curvature and pinches. */
const FORM: Material = { name: 'Form', colour: '#b9c6bd', roughness: 0.42, metalness: 0 };

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
  const group = useRef<Group>(null);
  const userData = useMemo(
    () => ({ piece: build.piece, weighable: weighablePiece(build, group, chosen) }),
    [build, chosen],
  );
  useImperativeHandle(body, () => group.current as Group, []);
  return (
    <group ref={group} userData={userData}>
      {shown.map((part) => {
        const track = build.motion.find((one) => one.part === part.id);
        const body = (
          <PartBody
            key={part.id}
            part={part}
            material={build.materials[part.slot]}
            look={look}
            fade={fade}
            chosen={chosen && !through}
            through={through}
            ride={track?.kind === 'ride' ? track : undefined}
            slide={track?.kind === 'slide' ? track : undefined}
          />
        );
        return track?.kind === 'turn' ? (
          <Moving key={part.id} track={track}>
            {body}
          </Moving>
        ) : (
          body
        );
      })}
      {asLine && (
        <GuideLines guide={build.guide} colour={chosen ? palette.ink : faded(colour, palette.view, fade ? 0.18 : 0)} />
      )}
    </group>
  );
});

/** Whether what is seen of a piece are its lines themselves: they need not be drawn once more. */
export const ownLines = ({ parts }: PieceBuild): boolean =>
  parts.some((part) => part.kind === 'strands' && part.marked);

/** A piece may be left out of a picture as a whole; not one that is chosen. */
function weighablePiece(
  { bounds, measures, parts }: PieceBuild,
  group: RefObject<Group | null>,
  inHand: boolean,
): Weighable {
  return {
    weigh: () =>
      bounds
        ? [
            {
              box: [...bounds.min, ...bounds.max],
              triangles: parts.reduce(
                // of strands what is drawn is not what is baked
                (sum, part) =>
                  part.kind === 'strands' ? sum - partCounts(part).triangles + drawnTriangles(part) : sum,
                measures.triangles,
              ),
              inHand,
              show: (shown) => {
                if (group.current) group.current.visible = shown;
              },
            },
          ]
        : [],
  };
}

interface PartBodyProps<P extends Part = Part> {
  part: P;
  material: Material;
  look: Look;
  fade: boolean;
  chosen: boolean;
  through: boolean;
  /** Its places ride along with the clock. */
  ride?: RideTrack;
  /** Its texture runs along it with the clock. */
  slide?: SlideTrack;
}

function PartBody(props: PartBodyProps) {
  const { part } = props;
  switch (part.kind) {
    case 'mesh':
      return <MeshBody {...props} part={part} />;
    case 'placed':
      return part.places.id.length > 0 ? <PlacedBody {...props} part={part} /> : null;
    case 'strands':
      return <StrandsBody {...props} part={part} />;
  }
}

/** What a part looks like under the chosen look. */
function useSkin({ material, look, fade, through }: PartBodyProps): MeshStandardMaterialParameters & Worn {
  const palette = usePalette();
  const picture = usePictureTexture(look === 'dressed' ? material.picture : undefined);
  const worn = look === 'dressed' ? wornBy(material, picture) : look === 'checker' ? checker() : NOTHING_WORN;
  const { colour, roughness, metalness, glow = 0 } = look === 'dressed' ? material : FORM;
  return {
    color: fade ? faded(colour, palette.view, 0.18) : colour,
    ...worn,
    roughness,
    metalness,
    emissive: colour,
    emissiveIntensity: glow,
    transparent: through,
    opacity: through ? 0.18 : 1,
    depthWrite: !through,
    polygonOffset: look === 'mesh',
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  };
}

function MeshBody(props: PartBodyProps<MeshPart>) {
  const { part, look, chosen, through } = props;
  const geometry = useMeshGeometry(part.mesh);
  const coloured = part.mesh.attributes?.['colour'] !== undefined && look === 'dressed';
  const met = { elements: part.elements?.places.id, elementOf: part.elements?.of };
  const given = useSkin(props);
  const skin = { ...given, ...useSliding(given, props.slide, props.material.repeat) };
  // with and without colours or textures of its own are different programs: one material does not change over
  const program = [coloured, skin.map !== null, skin.normalMap !== null].join();
  return (
    <>
      <mesh geometry={geometry} userData={met} castShadow={!through} receiveShadow>
        <meshStandardMaterial key={program} {...skin} vertexColors={coloured} />
      </mesh>
      {look === 'mesh' && <TrueEdges mesh={part.mesh} />}
      {chosen && <Halo mesh={part.mesh} />}
    </>
  );
}

/** More edges than these are a grey cloud, and slow. */
const MAX_EDGES = 200_000;

function PlacedBody(props: PartBodyProps<PlacedPart>) {
  const { part, look, chosen, through, ride } = props;
  const moved = useClockMoved();
  const geometry = useMeshGeometry(part.mesh);
  const skin = useSkin(props);
  const material = useMemo(() => new MeshStandardMaterial(), []);
  useEffect(() => () => material.dispose(), [material]);
  const { map, normalMap, normalScale, ...plain } = skin;
  material.setValues(plain);
  wear(material, { map, normalMap, normalScale });
  const { id, matrix, colour } = part.places;
  const edges = useMemo(
    () => (look === 'mesh' && partCounts(part).triangles <= MAX_EDGES ? realMesh(part) : null),
    [look, part],
  );
  return (
    <>
      <Instances
        geometry={geometry}
        material={material}
        matrices={matrix}
        elements={id}
        colours={look === 'dressed' ? colour : undefined}
        castShadow={!through}
        receiveShadow
        ride={ride}
      />
      {/* drawn where they are at the beginning */}
      {edges && !(ride && moved) && <TrueEdges mesh={edges} />}
      {chosen && <Halo mesh={part.mesh} matrices={matrix} ride={ride} />}
    </>
  );
}

/** This few lines are drawn as such, so thick, pixels: what represents one thing. */
const FEW = 64;
const LINE_WIDTH = 2;

function StrandsBody({ part, material, look, fade, chosen, through }: PartBodyProps<StrandsPart>) {
  const palette = usePalette();
  const dressed = look === 'dressed';
  const { colour } = dressed ? material : FORM;
  const many = part.marked || part.curves.closed.length > FEW;
  if (!many) {
    const shown = chosen ? palette.ink : fade ? faded(colour, palette.view, 0.18) : colour;
    return <GuideLines guide={part.curves} colour={shown} width={LINE_WIDTH} />;
  }
  return (
    <Strands
      part={part}
      colour={fade ? faded(colour, palette.view, 0.18) : colour}
      light={dressed ? material.strand : undefined}
      coloured={dressed && part.curves.pointData['colour'] !== undefined}
      opacity={through ? 0.18 : 1}
    />
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
