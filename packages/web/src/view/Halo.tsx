import { type Mesh, type RideTrack, weldPositions } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BackSide, BufferAttribute, BufferGeometry, Color, type PerspectiveCamera, ShaderMaterial } from 'three';
import { usePalette } from '../theme/scheme.js';
import { Instances } from './Instances.js';
import { kept } from './kept.js';

/** Width of the halo on the screen, pixels. */
const PIXELS = 1.6;

const haloMaterial = kept(
  (ink) =>
    new ShaderMaterial({
      side: BackSide,
      uniforms: { width: { value: 0 }, ink: { value: new Color(ink) } },
      vertexShader: `
        uniform float width;
        attribute vec3 outward;
        void main() {
          #ifdef USE_INSTANCING
            mat4 own = instanceMatrix;
          #else
            mat4 own = mat4(1.0);
          #endif
          vec4 place = modelViewMatrix * own * vec4(position, 1.0);
          place.xyz += normalize(normalMatrix * mat3(own) * outward) * width * -place.z;
          gl_Position = projectionMatrix * place;
        }`,
      fragmentShader: `
        uniform vec3 ink;
        void main() {
          gl_FragColor = vec4(ink, 1.0);
          #include <colorspace_fragment>
        }`,
    }),
);

/** An ink line round what is chosen: its back faces, pushed out by the same width on the screen everywhere. */
export function Halo({
  mesh,
  matrices,
  ride,
}: {
  mesh: Mesh;
  /** Column-major 4×4 of each instance. */
  matrices?: Float32Array;
  ride?: RideTrack;
}) {
  const { camera, size } = useThree();
  const { ink } = usePalette();
  const material = haloMaterial(ink);
  const geometry = useMemo(() => haloGeometry(mesh), [mesh]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  const fov = ((camera as PerspectiveCamera).fov * Math.PI) / 180;
  material.uniforms['width'].value = (PIXELS * 2 * Math.tan(fov / 2)) / size.height;
  if (matrices) return <Instances geometry={geometry} material={material} matrices={matrices} ride={ride} passed />;
  return <mesh geometry={geometry} material={material} dispose={null} raycast={() => null} />;
}

/** The mesh with one outward direction a place: at a sharp edge the normals part, and the halo would tear. */
function haloGeometry({ position, normal, index }: Mesh): BufferGeometry {
  const { remap, count } = weldPositions(position);
  const sum = new Float32Array(3 * count);
  for (let v = 0; v < remap.length; v++) for (let k = 0; k < 3; k++) sum[3 * remap[v] + k] += normal[3 * v + k];
  const outward = new Float32Array(position.length);
  for (let v = 0; v < remap.length; v++) for (let k = 0; k < 3; k++) outward[3 * v + k] = sum[3 * remap[v] + k];
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  geometry.setAttribute('outward', new BufferAttribute(outward, 3));
  geometry.setIndex(new BufferAttribute(index, 1));
  return geometry;
}
