import type { Bounds } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { DirectionalLight } from 'three';
import { studioLight } from '../look/studio-light.js';
import { FILL_LIGHT, KEY_LIGHT } from './lights.js';
import { useShadows } from './shadows.js';

/** Soft studio light made by code: a room's reflections, one warm key light with a shadow, a ground that takes it. */
export function Studio({ bounds, contentKey }: { bounds: Bounds; contentKey: unknown }) {
  const { gl, scene, invalidate } = useThree();
  const shadows = useShadows() === 'cast';
  // what was drawn into textures is gone with the graphics card's memory: it is made again
  const [context, setContext] = useState(0);
  useEffect(() => {
    const again = () => setContext((count) => count + 1);
    gl.domElement.addEventListener('webglcontextrestored', again);
    return () => gl.domElement.removeEventListener('webglcontextrestored', again);
  }, [gl]);
  const key = useRef<DirectionalLight>(null);
  const fill = useRef<DirectionalLight>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: context
  useEffect(() => {
    let close = () => {};
    let open = true;
    studioLight(gl).then((light) => {
      if (!open) return light.dispose();
      scene.environment = light.texture;
      scene.environmentIntensity = 0.3;
      invalidate();
      close = () => {
        scene.environment = null;
        light.dispose();
      };
    }, console.error);
    return () => {
      open = false;
      close();
    };
  }, [gl, scene, invalidate, context]);
  // the shadow is drawn again when something in the scene changes, not when the camera moves
  // biome-ignore lint/correctness/useExhaustiveDependencies: contentKey, context, shadows
  useEffect(() => {
    gl.shadowMap.autoUpdate = false;
    gl.shadowMap.needsUpdate = true;
    invalidate();
  }, [gl, invalidate, contentKey, bounds, context, shadows]);
  const { center, reach } = useMemo(() => sphereOf(bounds), [bounds]);
  useEffect(() => {
    // a light's target stands outside the scene, so nobody else brings its matrix up to date
    for (const light of [key.current, fill.current]) {
      light?.target.position.set(...center);
      light?.target.updateMatrixWorld();
      light?.shadow?.camera.updateProjectionMatrix();
    }
    gl.shadowMap.needsUpdate = true;
    invalidate();
  }, [center, gl, invalidate]);
  const placed = (from: readonly [number, number, number]): [number, number, number] => [
    center[0] + reach * from[0],
    center[1] + reach * from[1],
    center[2] + reach * from[2],
  ];
  return (
    <>
      <directionalLight
        ref={key}
        castShadow={shadows}
        color={KEY_LIGHT.colour}
        intensity={KEY_LIGHT.intensity}
        position={placed(KEY_LIGHT.from)}
        shadow-mapSize={[2048, 2048]}
        shadow-camera-left={-reach}
        shadow-camera-right={reach}
        shadow-camera-top={reach}
        shadow-camera-bottom={-reach}
        shadow-camera-near={0.01}
        shadow-camera-far={reach * 4}
        shadow-normalBias={reach * 0.0022}
        shadow-bias={-0.0004}
        shadow-radius={5}
      />
      <directionalLight
        ref={fill}
        color={FILL_LIGHT.colour}
        intensity={FILL_LIGHT.intensity}
        position={placed(FILL_LIGHT.from)}
      />
    </>
  );
}

export function sphereOf({ min, max }: Bounds): { center: [number, number, number]; reach: number } {
  const center: [number, number, number] = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
  return { center, reach: Math.max(0.2, Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2) };
}
