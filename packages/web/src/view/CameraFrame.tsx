import type { Bounds } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { type PerspectiveCamera, Vector3 } from 'three';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { boundsOf } from '@kelp/core';
import { sphereOf } from './Studio.js';

/** From where a scene is first looked at: a little above, from the front right. */
const FIRST_LOOK = new Vector3(0.42, 0.42, 1).normalize();

/** Brings the scene into view when a project opens, and what is chosen (or everything) when asked. */
export function CameraFrame({ bounds, request }: { bounds: Bounds; request: number }) {
  const { camera, controls, invalidate, size } = useThree();
  const project = useAppSelector((state) => state.project.id);
  const piece = useAppSelector((state) => state.view.piece);
  const { builds, busy, meshes } = useComputed();
  const framed = useRef<string | null>(null);
  const handled = useRef(0);
  const show = (box: Bounds, direction: Vector3, roomy: number) => {
    const { center, reach } = sphereOf(box);
    const view = camera as PerspectiveCamera;
    const half = (view.fov * Math.PI) / 360;
    const narrow = Math.min(half, Math.atan(Math.tan(half) * (size.width / size.height)));
    const distance = (reach * roomy) / Math.sin(narrow);
    const target = new Vector3(...center);
    camera.position.copy(target).addScaledVector(direction, distance);
    view.near = distance / 200;
    view.far = distance * 60;
    view.updateProjectionMatrix();
    const orbit = controls as unknown as { target: Vector3; update(): void } | null;
    orbit?.target.copy(target);
    orbit?.update();
    invalidate();
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once a project, when its first picture is complete
  useEffect(() => {
    const ready = !busy && controls && (builds.size > 0 || meshes.size > 0);
    if (!ready || framed.current === project) return;
    framed.current = project;
    show(bounds, FIRST_LOOK, 0.72);
  }, [project, busy, controls, bounds]);
  const frame = () => {
    const chosen = piece ? builds.get(piece) : undefined;
    const direction = camera.position.clone().sub((controls as unknown as { target: Vector3 }).target).normalize();
    show(chosen && chosen.rails.position.length > 0 ? boundsOf(chosen.rails.position) : bounds, direction, chosen ? 1.15 : 0.8);
  };
  useHotkeys('f', frame, [piece, builds, bounds, controls, size]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when asked
  useEffect(() => {
    if (request === handled.current) return;
    handled.current = request;
    frame();
  }, [request]);
  return null;
}
