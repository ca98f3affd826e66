import { boundsOf, type Mesh, type Placement, type Prop, placementMatrix } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useMemo, useRef } from 'react';
import { Matrix4, Plane, Vector3 } from 'three';
import { useAppDispatch } from '../app/store.js';
import { rayAt } from '../pens/pointer.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { usePalette } from '../theme/scheme.js';
import { type GripPlace, Grips } from './Grips.js';
import { Polyline } from './Polyline.js';

const STEPS = 64;

/**
 * Handles of the chosen prop: in the middle of its foot to move it over the ground, above it to lift it, on the circle
 * round its foot to turn it, at its top corner to size it.
 */
export function PropGrips({ prop, mesh, onGrab }: { prop: Prop; mesh: Mesh; onGrab(grabbed: boolean): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl } = useThree();
  const began = useRef<Placement | null>(null);
  const bounds = useMemo(() => boundsOf(mesh.position), [mesh]);
  const { placement } = prop;
  const toWorld = useMemo(() => new Matrix4().fromArray(placementMatrix(placement)), [placement]);
  const world = (x: number, y: number, z: number): GripPlace => new Vector3(x, y, z).applyMatrix4(toWorld).toArray();
  const { min, max } = bounds;
  const [cx, cz] = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2];
  const reach = 0.6 * Math.hypot(max[0] - min[0], max[2] - min[2]);
  const top = max[1] + 0.15 * Math.max(max[1] - min[1], reach / 2);
  const grips = [
    { id: 'move', place: world(cx, min[1], cz) },
    { id: 'lift', place: world(cx, top, cz) },
    { id: 'turn', place: world(cx + reach, min[1], cz) },
    { id: 'size', place: world(max[0], max[1], max[2]) },
  ];
  const circle = Array.from({ length: STEPS + 1 }, (_, k) => {
    const angle = (2 * Math.PI * k) / STEPS;
    return [...world(cx + reach * Math.cos(angle), min[1], cz + reach * Math.sin(angle))] as [number, number, number];
  });
  const onPlane = (event: PointerEvent, plane: Plane): Vector3 | null =>
    rayAt(camera, gl.domElement, event.clientX, event.clientY).ray.intersectPlane(plane, new Vector3());
  const drag = (id: string, event: PointerEvent, first: PointerEvent, done: boolean) => {
    began.current ??= placement;
    const start = began.current;
    const next = dragged(id, event, first, start);
    if (next)
      dispatch(
        edit(
          `${LABELS[id]} ${prop.name}`,
          (document) => ({
            ...document,
            props: document.props.map((other) => (other.id === prop.id ? { ...other, placement: next } : other)),
          }),
          `${prop.id} ${id}`,
        ),
      );
    if (!done) return;
    began.current = null;
    dispatch(gestureEnded());
  };
  const dragged = (id: string, event: PointerEvent, first: PointerEvent, start: Placement): Placement | null => {
    const matrix = new Matrix4().fromArray(placementMatrix(start));
    const foot = new Vector3(cx, min[1], cz).applyMatrix4(matrix);
    const facing = camera.getWorldDirection(new Vector3());
    const level = new Plane().setFromNormalAndCoplanarPoint(new Vector3(0, 1, 0), foot);
    const upright = new Plane().setFromNormalAndCoplanarPoint(new Vector3(facing.x, 0, facing.z).normalize(), foot);
    const plane = id === 'move' || id === 'turn' ? level : upright;
    const [from, to] = [onPlane(first, plane), onPlane(event, plane)];
    if (!from || !to) return null;
    const moved = (way: Vector3): Placement['position'] => [
      start.position[0] + way.x,
      start.position[1] + way.y,
      start.position[2] + way.z,
    ];
    if (id === 'move') return { ...start, position: moved(to.sub(from)) };
    if (id === 'lift') return { ...start, position: moved(new Vector3(0, to.y - from.y, 0)) };
    if (id === 'size') {
      const scale = start.scale * Math.max(0.01, to.distanceTo(foot) / Math.max(1e-9, from.distanceTo(foot)));
      return keepFoot({ ...start, scale });
    }
    const angle = Math.atan2(-(to.z - foot.z), to.x - foot.x) - Math.atan2(-(from.z - foot.z), from.x - foot.x);
    const [, y, , w] = start.rotation;
    const half = Math.atan2(y, w) + angle / 2;
    return keepFoot({ ...start, rotation: [0, Math.sin(half), 0, Math.cos(half)] });
  };
  /** The prop turns and grows about its foot, not about the file's zero. */
  const keepFoot = (next: Placement): Placement => {
    const before = new Vector3(cx, min[1], cz).applyMatrix4(
      new Matrix4().fromArray(placementMatrix(began.current ?? placement)),
    );
    const after = new Vector3(cx, min[1], cz).applyMatrix4(new Matrix4().fromArray(placementMatrix(next)));
    const by = before.sub(after);
    return { ...next, position: [next.position[0] + by.x, next.position[1] + by.y, next.position[2] + by.z] };
  };
  const { ink } = usePalette();
  const line = { color: ink, width: 1, opacity: 0.7, through: true };
  return (
    <>
      <Polyline points={circle} {...line} />
      <Polyline points={[grips[0].place, grips[1].place]} {...line} />
      <Grips grips={grips} onDrag={drag} onGrab={onGrab} />
    </>
  );
}

const LABELS: Record<string, string> = { move: 'Move', lift: 'Raise', turn: 'Rotate', size: 'Scale' };
