import { useEffect, useMemo } from 'react';
import { type BufferGeometry, Color, InstancedBufferAttribute, InstancedMesh, type Material } from 'three';

interface InstancesProps {
  geometry: BufferGeometry;
  material: Material;
  /** Column-major 4×4 each. */
  matrices: Float32Array;
  /** Linear rgb each. */
  colours?: Float32Array;
  castShadow?: boolean;
  receiveShadow?: boolean;
  /** Clicks go through it. */
  passed?: boolean;
  /** What a click on instance `i` finds. */
  owners?: readonly string[];
}

const nothing = () => {};

/** One geometry many times, in one draw. */
export function Instances(props: InstancesProps) {
  const { geometry, material, matrices, colours, castShadow, receiveShadow, passed, owners } = props;
  const count = matrices.length / 16;
  const body = useMemo(() => {
    const made = new InstancedMesh(geometry, material, 0);
    made.count = count;
    made.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
    if (colours) made.instanceColor = new InstancedBufferAttribute(colours, 3);
    made.computeBoundingSphere();
    return made;
  }, [geometry, material, matrices, colours, count]);
  if (passed) body.raycast = nothing;
  body.castShadow = castShadow ?? false;
  body.receiveShadow = receiveShadow ?? false;
  body.userData['owners'] = owners;
  useEffect(() => () => void body.dispose(), [body]);
  return <primitive object={body} />;
}

/** Colours of the page, as instances want them. */
export function linearColours(colours: readonly string[]): Float32Array {
  const out = new Float32Array(3 * colours.length);
  const colour = new Color();
  colours.forEach((one, i) => {
    colour.set(one).toArray(out, 3 * i);
  });
  return out;
}
