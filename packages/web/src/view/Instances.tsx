import { type Bounds, type RideTrack, riddenTo, type TurnTrack, turnedBy } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { type BufferGeometry, Color, InstancedBufferAttribute, InstancedMesh, type Material, Matrix4 } from 'three';

import { onClock } from '../state/clock.js';
import type { Weighable } from './Thinning.js';

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
  /** The element that instance `i` is. */
  elements?: ArrayLike<number>;
  /** Box of the geometry: single instances may then be left out of a picture of a large scene. */
  bounds?: Bounds;
  /** They ride along with the clock: for what is not left out of pictures one by one. */
  ride?: RideTrack;
  /** How instance `i` turns with the clock; under the same condition. */
  turns?: readonly (TurnTrack | undefined)[];
}

const nothing = () => {};

/** One geometry many times, in one draw. */
export function Instances(props: InstancesProps) {
  const { geometry, material, castShadow, receiveShadow, passed, owners, elements, bounds, ride, turns } = props;
  const invalidate = useThree((state) => state.invalidate);
  // what moves is there all along its way, whatever of it is seen at the beginning
  const matrices = useMemo(
    () => (ride ? riddenTo(ride, 0, new Float32Array(ride.local.length)) : props.matrices),
    [ride, props.matrices],
  );
  const colours = props.colours && ride?.colour ? ride.colour : props.colours;
  const count = matrices.length / 16;
  const body = useMemo(() => {
    const made = new InstancedMesh(geometry, material, 0);
    made.count = count;
    // of its own: what is left out of a picture changes it
    made.instanceMatrix = new InstancedBufferAttribute(matrices.slice(), 16);
    if (colours) made.instanceColor = new InstancedBufferAttribute(colours.slice(), 3);
    made.computeBoundingSphere();
    if (bounds) made.userData['weighable'] = weighable(made, matrices, colours, bounds, owners);
    return made;
  }, [geometry, material, matrices, colours, count, bounds, owners]);
  if (passed) body.raycast = nothing;
  body.castShadow = castShadow ?? false;
  body.receiveShadow = receiveShadow ?? false;
  if (!bounds) body.userData['owners'] = owners;
  body.userData['elements'] = elements;
  useEffect(() => () => void body.dispose(), [body]);
  useEffect(() => {
    if (!ride) return undefined;
    return onClock(({ phase }) => {
      riddenTo(ride, phase, body.instanceMatrix.array as Float32Array);
      body.instanceMatrix.needsUpdate = true;
      invalidate();
    });
  }, [ride, body, invalidate]);
  useEffect(() => {
    if (!turns) return undefined;
    const [turn, home, there] = [new Matrix4(), new Matrix4(), new Float64Array(16)];
    return onClock(({ phase }) => {
      turns.forEach((track, i) => {
        if (!track) return;
        home.fromArray(matrices, 16 * i).premultiply(turn.fromArray(turnedBy(track, phase, there)));
        home.toArray(body.instanceMatrix.array, 16 * i);
      });
      body.instanceMatrix.needsUpdate = true;
      invalidate();
    });
  }, [turns, matrices, body, invalidate]);
  return <primitive object={body} />;
}

/** Each instance may be left out: those that are drawn are written one after the other, with the owners they have. */
function weighable(
  body: InstancedMesh,
  matrices: Float32Array,
  colours: Float32Array | undefined,
  { min, max }: Bounds,
  owners: readonly string[] = [],
): Weighable {
  const count = matrices.length / 16;
  const shown = new Uint8Array(count).fill(1);
  let drawn = count;
  const triangles = (body.geometry.index?.count ?? 0) / 3;
  const thing = (_: unknown, i: number) => {
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (let corner = 0; corner < 8; corner++) {
      const [x, y, z] = [0, 1, 2].map((k) => (corner & (1 << k) ? max[k] : min[k]));
      for (let k = 0; k < 3; k++) {
        const m = 16 * i + k;
        const at = matrices[m] * x + matrices[m + 4] * y + matrices[m + 8] * z + matrices[m + 12];
        box[k] = Math.min(box[k], at);
        box[3 + k] = Math.max(box[3 + k], at);
      }
    }
    return {
      box,
      triangles,
      show: (visible: boolean) => {
        shown[i] = visible ? 1 : 0;
      },
    };
  };
  let things: ReturnType<typeof thing>[] | undefined;
  body.userData['owners'] = owners;
  return {
    // worked out when a picture is first thinned
    weigh: () => {
      things ??= Array.from({ length: count }, thing);
      return things;
    },
    settle() {
      const now = shown.reduce((sum, one) => sum + one, 0);
      if (now === count && drawn === count) return;
      let to = 0;
      const kept: string[] = [];
      const matrix = body.instanceMatrix.array as Float32Array;
      const colour = body.instanceColor?.array as Float32Array | undefined;
      for (let i = 0; i < count; i++) {
        if (!shown[i]) continue;
        matrix.set(matrices.subarray(16 * i, 16 * i + 16), 16 * to);
        if (colours) colour?.set(colours.subarray(3 * i, 3 * i + 3), 3 * to);
        if (owners[i] !== undefined) kept.push(owners[i]);
        to++;
      }
      drawn = to;
      body.count = to;
      body.instanceMatrix.needsUpdate = true;
      if (body.instanceColor) body.instanceColor.needsUpdate = true;
      body.userData['owners'] = kept;
    },
  };
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
