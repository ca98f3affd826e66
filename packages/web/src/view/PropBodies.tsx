import { boundsOf, type Mesh, type Prop, placementMatrix, type TurnTrack } from '@kelp/core';
import { Edges } from '@react-three/drei';
import { memo, useEffect, useMemo } from 'react';
import { MeshStandardMaterial } from 'three';
import type { Look } from '../state/view-slice.js';
import { usePalette } from '../theme/scheme.js';
import { faded } from './faded.js';
import { useMeshGeometry } from './geometry.js';
import { Halo } from './Halo.js';
import { hatchedBack } from './hatch.js';
import { Instances, linearColours } from './Instances.js';

/** In the mesh look, the edges of this many props of one mesh are drawn. */
const MAX_EDGED = 40;

interface PropBodiesProps {
  mesh: Mesh;
  /** Props that have this mesh. */
  props: readonly Prop[];
  look: Look;
  /** Something is chosen; and the prop that is, if it is one of these. */
  fade: boolean;
  chosen: string | null;
  /** Those that turn with the clock, by id. */
  turning: ReadonlyMap<string, TurnTrack>;
}

/** All props of one mesh, in one draw. */
export const PropBodies = memo(function PropBodies({ mesh, props, look, fade, chosen, turning }: PropBodiesProps) {
  const geometry = useMeshGeometry(mesh);
  const palette = usePalette();
  const material = useMemo(() => new MeshStandardMaterial({ roughness: 0.82, metalness: 0 }), []);
  useEffect(() => () => material.dispose(), [material]);
  const matrices = useMemo(() => {
    const out = new Float32Array(16 * props.length);
    props.forEach(({ placement }, i) => {
      out.set(placementMatrix(placement), 16 * i);
    });
    return out;
  }, [props]);
  const colours = useMemo(
    () =>
      linearColours(
        props.map(({ id, colour }) => {
          const shown = look === 'form' ? '#d9dbd3' : colour;
          return fade && id !== chosen ? faded(shown, palette.view, 0.1) : shown;
        }),
      ),
    [props, look, fade, chosen, palette],
  );
  const bounds = useMemo(() => boundsOf(mesh.position), [mesh]);
  const owners = useMemo(() => props.map(({ id }) => id), [props]);
  const turns = useMemo(
    () => (props.some(({ id }) => turning.has(id)) ? props.map(({ id }) => turning.get(id)) : undefined),
    [props, turning],
  );
  const at = props.findIndex(({ id }) => id === chosen);
  return (
    <>
      <Instances
        geometry={geometry}
        material={material}
        matrices={matrices}
        colours={colours}
        castShadow
        receiveShadow
        owners={owners}
        // what turns is left out of no picture
        bounds={turns ? undefined : bounds}
        turns={turns}
      />
      {/* the back of a face is hatched: what looks inwards, or stands open, shows at once */}
      <Instances
        geometry={geometry}
        material={hatchedBack(palette)}
        matrices={matrices}
        bounds={turns ? undefined : bounds}
        turns={turns}
        passed
      />
      {look === 'mesh' &&
        props.slice(0, MAX_EDGED).map(({ id, placement: { position, rotation, scale } }) => (
          <mesh
            key={id}
            geometry={geometry}
            position={position}
            quaternion={rotation}
            scale={scale}
            raycast={() => null}
          >
            <meshBasicMaterial visible={false} />
            <Edges geometry={geometry} threshold={1} color="#8FA097" raycast={() => null} />
          </mesh>
        ))}
      {at >= 0 && <Halo mesh={mesh} matrices={matrices.subarray(16 * at, 16 * at + 16)} />}
    </>
  );
});
